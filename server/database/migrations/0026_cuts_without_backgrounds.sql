-- Cuts could be lit by a background; finished pictures are now. A frame has at most two departures of one setting: its own and its subject’s.
UPDATE `setups` SET `recipe` = JSON_REMOVE(`recipe`, '$.bounce');--> statement-breakpoint
UPDATE `cuts` SET `recipe` = JSON_REMOVE(`recipe`, '$.bounce');--> statement-breakpoint
UPDATE `library_items` SET `item` = JSON_REMOVE(`item`, '$.entry.recipe.bounce') WHERE JSON_VALUE(`item`, '$.kind') = 'recipe';--> statement-breakpoint
UPDATE `frames` SET `guidance` = JSON_REMOVE(`guidance`, REPLACE(JSON_UNQUOTE(JSON_SEARCH(`guidance`, 'one', 'bounce', NULL, '$.departures[*].id')), '.id', ''))
  WHERE JSON_SEARCH(`guidance`, 'one', 'bounce', NULL, '$.departures[*].id') IS NOT NULL;--> statement-breakpoint
UPDATE `frames` SET `guidance` = JSON_REMOVE(`guidance`, REPLACE(JSON_UNQUOTE(JSON_SEARCH(`guidance`, 'one', 'bounce', NULL, '$.departures[*].id')), '.id', ''))
  WHERE JSON_SEARCH(`guidance`, 'one', 'bounce', NULL, '$.departures[*].id') IS NOT NULL;--> statement-breakpoint
UPDATE `cuts` SET `guidance` = JSON_REMOVE(`guidance`, REPLACE(JSON_UNQUOTE(JSON_SEARCH(`guidance`, 'one', 'bounce', NULL, '$.departures[*].id')), '.id', ''))
  WHERE JSON_SEARCH(`guidance`, 'one', 'bounce', NULL, '$.departures[*].id') IS NOT NULL;--> statement-breakpoint
ALTER TABLE `cuts` DROP COLUMN `lit_by`;
