ALTER TABLE `cuts` MODIFY COLUMN `guidance` json NOT NULL DEFAULT '{"masks":[],"verdicts":[],"touches":[],"departures":[]}';--> statement-breakpoint
ALTER TABLE `frames` MODIFY COLUMN `guidance` json NOT NULL DEFAULT '{"masks":[],"verdicts":[],"touches":[],"departures":[]}';--> statement-breakpoint
UPDATE `frames` SET `guidance` = JSON_SET(`guidance`, '$.departures', JSON_ARRAY()) WHERE JSON_EXTRACT(`guidance`, '$.departures') IS NULL;--> statement-breakpoint
UPDATE `cuts` SET `guidance` = JSON_SET(`guidance`, '$.departures', JSON_ARRAY()) WHERE JSON_EXTRACT(`guidance`, '$.departures') IS NULL;
