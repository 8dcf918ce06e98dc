ALTER TABLE `backgrounds` MODIFY COLUMN `scene` json NOT NULL DEFAULT '{"horizon":null,"cameraHeight":null,"focal":null,"lightFrom":null,"by":{},"ball":null,"notes":""}';--> statement-breakpoint
UPDATE `backgrounds` SET `scene` = JSON_SET(`scene`, '$.focal', NULL, '$.by', JSON_OBJECT()) WHERE NOT JSON_EXISTS(`scene`, '$.by');
