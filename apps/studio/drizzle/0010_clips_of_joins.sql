ALTER TABLE "clips" ALTER COLUMN "take" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "join" uuid;--> statement-breakpoint
ALTER TABLE "clips" ADD CONSTRAINT "clips_join_joins_id_fk" FOREIGN KEY ("join") REFERENCES "public"."joins"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clips" ADD CONSTRAINT "clips_source" CHECK (("clips"."take" is null) <> ("clips"."join" is null));