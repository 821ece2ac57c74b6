ALTER TABLE "clips" ADD COLUMN "gait" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "direction" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "name_pattern" text DEFAULT '{character}-{gait}-{direction}' NOT NULL;