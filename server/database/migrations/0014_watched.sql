CREATE TABLE `watched_files` (
	`id` int AUTO_INCREMENT NOT NULL,
	`setup_id` int NOT NULL,
	`name` varchar(255) NOT NULL,
	`bytes` bigint NOT NULL,
	`modified` bigint NOT NULL,
	`problem` json,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `watched_files_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `setups` ADD `watch` varchar(400);--> statement-breakpoint
ALTER TABLE `setups` ADD `follow` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `watched_files` ADD CONSTRAINT `watched_files_setup_id_setups_id_fk` FOREIGN KEY (`setup_id`) REFERENCES `setups`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `watched_files_setup` ON `watched_files` (`setup_id`);