CREATE TABLE `remembered` (
	`name` varchar(40) NOT NULL,
	`value` varchar(200) NOT NULL,
	CONSTRAINT `remembered_name` PRIMARY KEY(`name`)
);
--> statement-breakpoint
DROP INDEX `jobs_next` ON `jobs`;--> statement-breakpoint
ALTER TABLE `batches` MODIFY COLUMN `kind` enum('cut','deliver','sample') NOT NULL;--> statement-breakpoint
ALTER TABLE `jobs` MODIFY COLUMN `batch_id` int;--> statement-breakpoint
ALTER TABLE `jobs` MODIFY COLUMN `frame_id` int;--> statement-breakpoint
ALTER TABLE `cuts` ADD `fingerprint` varchar(32) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `cuts` ADD `lit_by` json;--> statement-breakpoint
ALTER TABLE `jobs` ADD `kind` varchar(20) NOT NULL;--> statement-breakpoint
ALTER TABLE `jobs` ADD `payload` json DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `jobs` ADD `shoot_id` int;--> statement-breakpoint
ALTER TABLE `jobs` ADD `priority` smallint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `jobs` ADD `made` json;--> statement-breakpoint
ALTER TABLE `jobs` ADD `created_at` timestamp(3) DEFAULT current_timestamp(3) NOT NULL;--> statement-breakpoint
ALTER TABLE `shoots` ADD `removed_at` timestamp(3);--> statement-breakpoint
ALTER TABLE `jobs` ADD CONSTRAINT `jobs_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `jobs_shoot` ON `jobs` (`shoot_id`);--> statement-breakpoint
CREATE INDEX `jobs_next` ON `jobs` (`state`,`interrupted`,`priority`,`id`);--> statement-breakpoint
UPDATE `jobs` JOIN `batches` ON `batches`.`id` = `jobs`.`batch_id` LEFT JOIN `deliveries` ON `deliveries`.`batch_id` = `batches`.`id` SET `jobs`.`kind` = `batches`.`kind`, `jobs`.`shoot_id` = `batches`.`shoot_id`, `jobs`.`payload` = IF(`deliveries`.`id` IS NULL, '{}', JSON_OBJECT('deliveryId', `deliveries`.`id`));--> statement-breakpoint
ALTER TABLE `cuts` DROP COLUMN `instructions`;--> statement-breakpoint
ALTER TABLE `cuts` DROP COLUMN `milliseconds`;