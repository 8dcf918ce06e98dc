CREATE TABLE `luts` (
	`id` int AUTO_INCREMENT NOT NULL,
	`name` varchar(255) NOT NULL,
	`file` char(64) NOT NULL,
	`size` int NOT NULL,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `luts_id` PRIMARY KEY(`id`),
	CONSTRAINT `luts_file_unique` UNIQUE(`file`)
);
--> statement-breakpoint
ALTER TABLE `styles` ADD `extras` json DEFAULT '{"lut":null,"layers":[],"card":null}' NOT NULL;