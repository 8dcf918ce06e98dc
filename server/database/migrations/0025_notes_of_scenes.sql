ALTER TABLE `backgrounds` MODIFY COLUMN `scene` json NOT NULL DEFAULT '{"horizon":null,"cameraHeight":null,"lightFrom":null,"ball":null,"notes":""}';--> statement-breakpoint
UPDATE `backgrounds` SET `scene` = JSON_SET(`scene`, '$.notes', '') WHERE NOT JSON_EXISTS(`scene`, '$.notes');
