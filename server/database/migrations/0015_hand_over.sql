ALTER TABLE `delivery_files` MODIFY COLUMN `file` char(64);--> statement-breakpoint
ALTER TABLE `delivery_files` MODIFY COLUMN `bytes` bigint NOT NULL DEFAULT 0;--> statement-breakpoint
ALTER TABLE `delivery_files` MODIFY COLUMN `width` int NOT NULL DEFAULT 0;--> statement-breakpoint
ALTER TABLE `delivery_files` MODIFY COLUMN `height` int NOT NULL DEFAULT 0;--> statement-breakpoint
ALTER TABLE `deliveries` ADD `not_placed` json DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `deliveries` ADD `repeats` int;--> statement-breakpoint
ALTER TABLE `delivery_files` ADD `preset` smallint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `delivery_files` ADD `made_from` char(64);--> statement-breakpoint
ALTER TABLE `placements` ADD `crops` json DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `deliveries` ADD CONSTRAINT `deliveries_repeats_deliveries_id_fk` FOREIGN KEY (`repeats`) REFERENCES `deliveries`(`id`) ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `delivery_files_frame` ON `delivery_files` (`frame_id`);--> statement-breakpoint
UPDATE `delivery_files` f JOIN `deliveries` d ON d.`id` = f.`delivery_id` SET f.`preset` = 1 WHERE f.`kind` = 'finished' AND JSON_VALUE(d.`settings`, '$.cutout') <> 'none';--> statement-breakpoint
UPDATE `deliveries` SET `settings` = CONCAT('{"presets":[', CONCAT_WS(',', IF(JSON_VALUE(`settings`, '$.cutout') = 'none', NULL, CONCAT('{"kind":"cutout","name":"Cutouts","format":"', JSON_VALUE(`settings`, '$.cutout'), '","trimmed":false}')), IF(JSON_VALUE(`settings`, '$.finished') = 'none', NULL, CONCAT('{"kind":"screen","name":"Finished","longest":12000,"most":0,"format":"', JSON_VALUE(`settings`, '$.finished'), '","quality":', JSON_VALUE(`settings`, '$.quality'), '}'))), '],"names":"{preset}/{frame}","chosen":{"picks":"all","subjects":null,"setups":null,"backgrounds":null},"metadata":{"title":"","photographer":"","rights":"","place":"","instructions":"","persons":false,"taken":false},"papers":{"contact":false,"slips":false,"proof":false}}');--> statement-breakpoint
UPDATE `jobs` SET `state` = 'cancelled' WHERE `kind` = 'deliver' AND `state` IN ('queued', 'running');--> statement-breakpoint
ALTER TABLE `delivery_files` DROP COLUMN `kind`;