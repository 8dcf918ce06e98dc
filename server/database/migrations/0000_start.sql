CREATE TABLE `backgrounds` (
	`id` int AUTO_INCREMENT NOT NULL,
	`name` varchar(255) NOT NULL,
	`file` char(64) NOT NULL,
	`width` int NOT NULL,
	`height` int NOT NULL,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `backgrounds_id` PRIMARY KEY(`id`),
	CONSTRAINT `backgrounds_file_unique` UNIQUE(`file`)
);
--> statement-breakpoint
CREATE TABLE `batches` (
	`id` int AUTO_INCREMENT NOT NULL,
	`shoot_id` int NOT NULL,
	`kind` enum('cut','deliver') NOT NULL,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `batches_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `cuts` (
	`frame_id` int NOT NULL,
	`file` char(64) NOT NULL,
	`depth` smallint NOT NULL,
	`recipe` json NOT NULL,
	`quality` json NOT NULL,
	`milliseconds` int NOT NULL,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `cuts_frame_id` PRIMARY KEY(`frame_id`)
);
--> statement-breakpoint
CREATE TABLE `deliveries` (
	`id` int AUTO_INCREMENT NOT NULL,
	`shoot_id` int NOT NULL,
	`batch_id` int NOT NULL,
	`settings` json NOT NULL,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `deliveries_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `delivery_files` (
	`id` int AUTO_INCREMENT NOT NULL,
	`delivery_id` int NOT NULL,
	`frame_id` int,
	`name` varchar(255) NOT NULL,
	`kind` enum('cutout','finished') NOT NULL,
	`file` char(64) NOT NULL,
	`bytes` bigint NOT NULL,
	`width` int NOT NULL,
	`height` int NOT NULL,
	`background` varchar(255) NOT NULL DEFAULT '',
	CONSTRAINT `delivery_files_id` PRIMARY KEY(`id`),
	CONSTRAINT `delivery_files_name` UNIQUE(`delivery_id`,`name`)
);
--> statement-breakpoint
CREATE TABLE `frames` (
	`id` int AUTO_INCREMENT NOT NULL,
	`setup_id` int NOT NULL,
	`name` varchar(255) NOT NULL,
	`file` char(64) NOT NULL,
	`bytes` bigint NOT NULL,
	`width` int NOT NULL,
	`height` int NOT NULL,
	`depth` smallint NOT NULL,
	`taken_at` varchar(19),
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `frames_id` PRIMARY KEY(`id`),
	CONSTRAINT `frames_setup_file` UNIQUE(`setup_id`,`file`)
);
--> statement-breakpoint
CREATE TABLE `jobs` (
	`id` int AUTO_INCREMENT NOT NULL,
	`batch_id` int NOT NULL,
	`frame_id` int NOT NULL,
	`state` enum('queued','running','done','failed','cancelled') NOT NULL DEFAULT 'queued',
	`attempts` int NOT NULL DEFAULT 0,
	`token` char(36),
	`lease_until` timestamp(3),
	`problem` json,
	`milliseconds` int,
	CONSTRAINT `jobs_id` PRIMARY KEY(`id`),
	CONSTRAINT `jobs_batch_frame` UNIQUE(`batch_id`,`frame_id`)
);
--> statement-breakpoint
CREATE TABLE `placements` (
	`frame_id` int NOT NULL,
	`background_id` int NOT NULL,
	`x` double NOT NULL,
	`y` double NOT NULL,
	`height` double NOT NULL,
	CONSTRAINT `placements_frame_id` PRIMARY KEY(`frame_id`)
);
--> statement-breakpoint
CREATE TABLE `setups` (
	`id` int AUTO_INCREMENT NOT NULL,
	`shoot_id` int NOT NULL,
	`name` varchar(120) NOT NULL,
	`recipe` json NOT NULL,
	CONSTRAINT `setups_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `shoots` (
	`id` int AUTO_INCREMENT NOT NULL,
	`name` varchar(120) NOT NULL,
	`date` date NOT NULL,
	`place` varchar(120) NOT NULL DEFAULT '',
	`demo` boolean NOT NULL DEFAULT false,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `shoots_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `batches` ADD CONSTRAINT `batches_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `cuts` ADD CONSTRAINT `cuts_frame_id_frames_id_fk` FOREIGN KEY (`frame_id`) REFERENCES `frames`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `deliveries` ADD CONSTRAINT `deliveries_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `deliveries` ADD CONSTRAINT `deliveries_batch_id_batches_id_fk` FOREIGN KEY (`batch_id`) REFERENCES `batches`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `delivery_files` ADD CONSTRAINT `delivery_files_delivery_id_deliveries_id_fk` FOREIGN KEY (`delivery_id`) REFERENCES `deliveries`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `delivery_files` ADD CONSTRAINT `delivery_files_frame_id_frames_id_fk` FOREIGN KEY (`frame_id`) REFERENCES `frames`(`id`) ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `frames` ADD CONSTRAINT `frames_setup_id_setups_id_fk` FOREIGN KEY (`setup_id`) REFERENCES `setups`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `jobs` ADD CONSTRAINT `jobs_batch_id_batches_id_fk` FOREIGN KEY (`batch_id`) REFERENCES `batches`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `jobs` ADD CONSTRAINT `jobs_frame_id_frames_id_fk` FOREIGN KEY (`frame_id`) REFERENCES `frames`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `placements` ADD CONSTRAINT `placements_frame_id_frames_id_fk` FOREIGN KEY (`frame_id`) REFERENCES `frames`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `placements` ADD CONSTRAINT `placements_background_id_backgrounds_id_fk` FOREIGN KEY (`background_id`) REFERENCES `backgrounds`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `setups` ADD CONSTRAINT `setups_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `batches_shoot` ON `batches` (`shoot_id`);--> statement-breakpoint
CREATE INDEX `cuts_file` ON `cuts` (`file`);--> statement-breakpoint
CREATE INDEX `deliveries_shoot` ON `deliveries` (`shoot_id`);--> statement-breakpoint
CREATE INDEX `delivery_files_file` ON `delivery_files` (`file`);--> statement-breakpoint
CREATE INDEX `frames_file` ON `frames` (`file`);--> statement-breakpoint
CREATE INDEX `jobs_claim` ON `jobs` (`state`,`lease_until`);--> statement-breakpoint
CREATE INDEX `jobs_frame` ON `jobs` (`frame_id`);--> statement-breakpoint
CREATE INDEX `placements_background` ON `placements` (`background_id`);--> statement-breakpoint
CREATE INDEX `setups_shoot` ON `setups` (`shoot_id`);