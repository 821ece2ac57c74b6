ALTER TABLE "clips" ADD COLUMN "file_from" double precision;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "file_to" double precision;