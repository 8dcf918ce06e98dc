CREATE TABLE `subjects` (
	`id` int AUTO_INCREMENT NOT NULL,
	`shoot_id` int NOT NULL,
	`number` varchar(12) NOT NULL,
	`name` varchar(80) NOT NULL,
	`group` varchar(80) NOT NULL,
	`clothing` varchar(120) NOT NULL,
	`consent` enum('unasked','yes','prints','no') NOT NULL,
	`consent_by` varchar(80) NOT NULL,
	`background` varchar(120) NOT NULL,
	`products` varchar(200) NOT NULL,
	`note` varchar(500) NOT NULL,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `subjects_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `deliveries` ADD `kept_back` json DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `frames` ADD `clock` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `frames` ADD `camera` json DEFAULT '{"body":"","lens":"","focal":null,"aperture":null,"shutter":null,"iso":null,"profile":""}' NOT NULL;--> statement-breakpoint
ALTER TABLE `frames` ADD `facts` json;--> statement-breakpoint
ALTER TABLE `frames` ADD `pick` enum('keep','reserve','drop');--> statement-breakpoint
ALTER TABLE `subjects` ADD CONSTRAINT `subjects_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `subjects_shoot` ON `subjects` (`shoot_id`);--> statement-breakpoint
INSERT INTO `subjects` (`shoot_id`, `number`, `name`, `group`, `clothing`, `consent`, `consent_by`, `background`, `products`, `note`)
SELECT s.`shoot_id`, CAST(ROW_NUMBER() OVER (PARTITION BY s.`shoot_id` ORDER BY MIN(f.`taken_at`), MIN(f.`id`)) AS CHAR), f.`subject`, '', '', 'unasked', '', '', '', '' FROM `frames` f JOIN `setups` s ON s.`id` = f.`setup_id` WHERE f.`subject` <> '' GROUP BY s.`shoot_id`, f.`subject`;
