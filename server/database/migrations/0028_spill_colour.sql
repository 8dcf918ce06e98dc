-- From which hues spill is taken, and what colour it leaves: before from all, and none.
UPDATE `setups` SET `recipe` = JSON_INSERT(`recipe`, '$.spillHues', 180, '$.spillFade', 30, '$.replaced', 0, '$.replacedHue', 30, '$.replacedPurity', 0.4);--> statement-breakpoint
UPDATE `cuts` SET `recipe` = JSON_INSERT(`recipe`, '$.spillHues', 180, '$.spillFade', 30, '$.replaced', 0, '$.replacedHue', 30, '$.replacedPurity', 0.4);--> statement-breakpoint
UPDATE `library_items` SET `item` = JSON_INSERT(`item`, '$.entry.recipe.spillHues', 180, '$.entry.recipe.spillFade', 30, '$.entry.recipe.replaced', 0, '$.entry.recipe.replacedHue', 30, '$.entry.recipe.replacedPurity', 0.4) WHERE JSON_VALUE(`item`, '$.kind') = 'recipe';
