CREATE TABLE `styles` (
	`id` int AUTO_INCREMENT NOT NULL,
	`shoot_id` int NOT NULL,
	`background_id` int NOT NULL,
	`look` json NOT NULL,
	CONSTRAINT `styles_id` PRIMARY KEY(`id`),
	CONSTRAINT `styles_shoot_background` UNIQUE(`shoot_id`,`background_id`)
);
--> statement-breakpoint
ALTER TABLE `placements` ADD `look` json DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `styles` ADD CONSTRAINT `styles_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `styles` ADD CONSTRAINT `styles_background_id_backgrounds_id_fk` FOREIGN KEY (`background_id`) REFERENCES `backgrounds`(`id`) ON DELETE cascade ON UPDATE no action;