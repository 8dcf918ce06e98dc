CREATE TABLE `checks` (
	`id` int AUTO_INCREMENT NOT NULL,
	`setup_id` int NOT NULL,
	`marks` json NOT NULL,
	`findings` json,
	`signed_at` timestamp(3),
	`open_points` json NOT NULL,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `checks_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `rehearsals` (
	`id` int AUTO_INCREMENT NOT NULL,
	`level` smallint NOT NULL,
	`seed` int NOT NULL,
	`causes` json NOT NULL,
	`pictures` json NOT NULL,
	`findings` json NOT NULL,
	`answer` json,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `rehearsals_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `test_pictures` (
	`id` int AUTO_INCREMENT NOT NULL,
	`check_id` int NOT NULL,
	`kind` enum('people','plate','ball','grey card','colour chart','background') NOT NULL,
	`name` varchar(255) NOT NULL,
	`file` char(64) NOT NULL,
	`width` int NOT NULL,
	`height` int NOT NULL,
	CONSTRAINT `test_pictures_id` PRIMARY KEY(`id`),
	CONSTRAINT `test_pictures_kind` UNIQUE(`check_id`,`kind`)
);
--> statement-breakpoint
ALTER TABLE `checks` ADD CONSTRAINT `checks_setup_id_setups_id_fk` FOREIGN KEY (`setup_id`) REFERENCES `setups`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `test_pictures` ADD CONSTRAINT `test_pictures_check_id_checks_id_fk` FOREIGN KEY (`check_id`) REFERENCES `checks`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `checks_setup` ON `checks` (`setup_id`);--> statement-breakpoint
CREATE INDEX `test_pictures_file` ON `test_pictures` (`file`);