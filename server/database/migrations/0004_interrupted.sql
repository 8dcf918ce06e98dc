DROP INDEX `jobs_claim` ON `jobs`;--> statement-breakpoint
ALTER TABLE `jobs` ADD `interrupted` int DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `cuts_plate` ON `cuts` (`plate`);--> statement-breakpoint
CREATE INDEX `cuts_created` ON `cuts` (`created_at`);--> statement-breakpoint
CREATE INDEX `deliveries_batch` ON `deliveries` (`batch_id`);--> statement-breakpoint
CREATE INDEX `frames_setup_subject` ON `frames` (`setup_id`,`subject`);--> statement-breakpoint
CREATE INDEX `jobs_next` ON `jobs` (`state`,`interrupted`,`id`);--> statement-breakpoint
CREATE INDEX `jobs_lease` ON `jobs` (`state`,`lease_until`);--> statement-breakpoint
CREATE INDEX `jobs_batch_state` ON `jobs` (`batch_id`,`state`);