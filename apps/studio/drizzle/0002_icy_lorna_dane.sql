CREATE TABLE "take_overviews" (
	"take" uuid PRIMARY KEY NOT NULL,
	"about" jsonb NOT NULL,
	"bytes" "bytea" NOT NULL
);
--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "long" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "take_overviews" ADD CONSTRAINT "take_overviews_take_takes_id_fk" FOREIGN KEY ("take") REFERENCES "public"."takes"("id") ON DELETE cascade ON UPDATE no action;