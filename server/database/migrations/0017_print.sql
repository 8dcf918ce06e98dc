CREATE TABLE `print_orders` (
	`id` int AUTO_INCREMENT NOT NULL,
	`shoot_id` int NOT NULL,
	`delivery_id` int NOT NULL,
	`reference` char(36) NOT NULL,
	`items` json NOT NULL,
	`number` varchar(40) NOT NULL DEFAULT '',
	`price` double,
	`state` enum('placing','priced','accepting','accepted','printed','sent','failed') NOT NULL,
	`problem` json,
	`created_at` timestamp(3) NOT NULL DEFAULT current_timestamp(3),
	CONSTRAINT `print_orders_id` PRIMARY KEY(`id`),
	CONSTRAINT `print_orders_reference_unique` UNIQUE(`reference`)
);
--> statement-breakpoint
ALTER TABLE `print_orders` ADD CONSTRAINT `print_orders_shoot_id_shoots_id_fk` FOREIGN KEY (`shoot_id`) REFERENCES `shoots`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `print_orders` ADD CONSTRAINT `print_orders_delivery_id_deliveries_id_fk` FOREIGN KEY (`delivery_id`) REFERENCES `deliveries`(`id`) ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `print_orders_delivery` ON `print_orders` (`delivery_id`);