ALTER TABLE `frames` ADD `raw` char(64);--> statement-breakpoint
ALTER TABLE `setups` ADD `develop` json DEFAULT '{"exposure":0,"warmth":0}' NOT NULL;