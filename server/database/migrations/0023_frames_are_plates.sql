ALTER TABLE `frames` ADD `plate` boolean DEFAULT false NOT NULL;--> statement-breakpoint
-- A setup had one plate; now a frame says itself that it is one.
UPDATE `frames` JOIN `setups` ON `setups`.`plate_frame_id` = `frames`.`id` SET `frames`.`plate` = true;--> statement-breakpoint
ALTER TABLE `setups` DROP FOREIGN KEY `setups_plate_frame_id_frames_id_fk`;--> statement-breakpoint
ALTER TABLE `setups` DROP COLUMN `plate_frame_id`;
