CREATE TABLE `notes` (
	`id` int AUTO_INCREMENT NOT NULL,
	`shoot_id` int NOT NULL,
	`kind` enum('note','camera','background','erased') NOT NULL,
	`at` varchar(19) NOT NULL,
	`place` varchar(12) NOT NULL,
	`setup_id` int,
	`words` varchar(4000) NOT NULL,
	`camera` json,
	`file` char(64),
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `notes_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `work_times` (
	`id` int AUTO_INCREMENT NOT NULL,
	`shoot_id` int NOT NULL,
	`place` varchar(12) NOT NULL,
	`day` date NOT NULL,
	`seconds` int NOT NULL,
	`corrected` int,
	CONSTRAINT `work_times_id` PRIMARY KEY(`id`),
	CONSTRAINT `work_times_place_day` UNIQUE(`shoot_id`,`place`,`day`)
);
--> statement-breakpoint
ALTER TABLE `shoots` ADD `costs` json DEFAULT '{"hour":0,"hoursThere":0,"other":0,"otherWhat":""}' NOT NULL;--> statement-breakpoint
ALTER TABLE `notes` ADD CONSTRAINT `notes_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `notes` ADD CONSTRAINT `notes_setup_id_setups_id_fk` FOREIGN KEY (`setup_id`) REFERENCES `setups`(`id`) ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `work_times` ADD CONSTRAINT `work_times_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `notes_shoot` ON `notes` (`shoot_id`);--> statement-breakpoint
CREATE INDEX `notes_file` ON `notes` (`file`);