ALTER TABLE `cuts` MODIFY COLUMN `guidance` json NOT NULL DEFAULT '{"masks":[],"verdicts":[],"touches":[]}';--> statement-breakpoint
ALTER TABLE `frames` MODIFY COLUMN `guidance` json NOT NULL DEFAULT '{"masks":[],"verdicts":[],"touches":[]}';--> statement-breakpoint
ALTER TABLE `frames` ADD `review` json;--> statement-breakpoint
UPDATE `frames` SET `guidance` = JSON_SET(`guidance`, '$.touches', JSON_ARRAY()) WHERE JSON_EXTRACT(`guidance`, '$.touches') IS NULL;--> statement-breakpoint
UPDATE `cuts` SET `guidance` = JSON_SET(`guidance`, '$.touches', JSON_ARRAY()) WHERE JSON_EXTRACT(`guidance`, '$.touches') IS NULL;
