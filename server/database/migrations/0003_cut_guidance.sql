ALTER TABLE `cuts` ADD `instructions` varchar(32) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `cuts` ADD `guidance` json DEFAULT '{"masks":[],"verdicts":[]}' NOT NULL;--> statement-breakpoint
ALTER TABLE `cuts` ADD `plate` char(64);--> statement-breakpoint
ALTER TABLE `frames` ADD `subject` varchar(80) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `frames` ADD `guidance` json DEFAULT '{"masks":[],"verdicts":[]}' NOT NULL;--> statement-breakpoint
ALTER TABLE `setups` ADD `masks` json DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `setups` ADD `plate_frame_id` int;--> statement-breakpoint
ALTER TABLE `setups` ADD CONSTRAINT `setups_plate_frame_id_frames_id_fk` FOREIGN KEY (`plate_frame_id`) REFERENCES `frames`(`id`) ON DELETE set null ON UPDATE no action;