UPDATE `setups` SET `recipe` = JSON_INSERT(`recipe`, '$.personExposure', 0, '$.personWarmth', 0, '$.personTint', 0);--> statement-breakpoint
UPDATE `cuts` SET `recipe` = JSON_INSERT(`recipe`, '$.personExposure', 0, '$.personWarmth', 0, '$.personTint', 0);--> statement-breakpoint
UPDATE `library_items` SET `item` = JSON_INSERT(`item`, '$.entry.recipe.personExposure', 0, '$.entry.recipe.personWarmth', 0, '$.entry.recipe.personTint', 0) WHERE JSON_VALUE(`item`, '$.kind') = 'recipe';
