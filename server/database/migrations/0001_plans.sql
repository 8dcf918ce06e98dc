CREATE TABLE `library_items` (
	`id` int AUTO_INCREMENT NOT NULL,
	`item` json NOT NULL,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `library_items_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `plans` (
	`id` int AUTO_INCREMENT NOT NULL,
	`shoot_id` int NOT NULL,
	`setup_id` int,
	`plan` json NOT NULL,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	`changed_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `plans_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `plans` ADD CONSTRAINT `plans_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plans` ADD CONSTRAINT `plans_setup_id_setups_id_fk` FOREIGN KEY (`setup_id`) REFERENCES `setups`(`id`) ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `plans_shoot` ON `plans` (`shoot_id`);--> statement-breakpoint
CREATE INDEX `plans_setup` ON `plans` (`setup_id`);