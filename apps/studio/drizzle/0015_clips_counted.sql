DROP INDEX "clips_project";--> statement-breakpoint
CREATE INDEX "clips_counted" ON "clips" USING btree ("project","removed","updated");