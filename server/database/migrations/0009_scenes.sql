ALTER TABLE `backgrounds` ADD `tags` json DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `backgrounds` ADD `scene` json DEFAULT '{"horizon":null,"cameraHeight":null,"lightFrom":null,"ball":null}' NOT NULL;--> statement-breakpoint
ALTER TABLE `backgrounds` ADD `removed_at` timestamp(3);--> statement-breakpoint
ALTER TABLE `cuts` ADD `faces` json DEFAULT '[]' NOT NULL;