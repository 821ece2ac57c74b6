CREATE TABLE "made_clips" (
	"key" text PRIMARY KEY NOT NULL,
	"document" text NOT NULL,
	"name" text NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"beat" timestamp with time zone,
	"tries" integer DEFAULT 0 NOT NULL,
	"about" jsonb,
	"failure" jsonb,
	"asked" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "ship_documents" (
	"hash" text PRIMARY KEY NOT NULL,
	"project" text NOT NULL,
	"document" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shipment_clips" (
	"shipment" uuid NOT NULL,
	"index" integer NOT NULL,
	"name" text NOT NULL,
	"key" text NOT NULL,
	CONSTRAINT "shipment_clips_shipment_index_pk" PRIMARY KEY("shipment","index")
);
--> statement-breakpoint
CREATE TABLE "shipment_files" (
	"shipment" uuid NOT NULL,
	"index" integer NOT NULL,
	"path" text NOT NULL,
	"hash" text NOT NULL,
	"bytes" integer NOT NULL,
	CONSTRAINT "shipment_files_shipment_index_pk" PRIMARY KEY("shipment","index")
);
--> statement-breakpoint
CREATE TABLE "shipments" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project" text NOT NULL,
	"document" text NOT NULL,
	"state" text DEFAULT 'making' NOT NULL,
	"beat" timestamp with time zone,
	"tries" integer DEFAULT 0 NOT NULL,
	"ship" jsonb NOT NULL,
	"report" jsonb,
	"listed" jsonb,
	"message" text DEFAULT '' NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"finished" timestamp with time zone,
	"removed" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "made_clips" ADD CONSTRAINT "made_clips_document_ship_documents_hash_fk" FOREIGN KEY ("document") REFERENCES "public"."ship_documents"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "ship_documents" ADD CONSTRAINT "ship_documents_project_projects_id_fk" FOREIGN KEY ("project") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shipment_clips" ADD CONSTRAINT "shipment_clips_shipment_shipments_id_fk" FOREIGN KEY ("shipment") REFERENCES "public"."shipments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shipment_files" ADD CONSTRAINT "shipment_files_shipment_shipments_id_fk" FOREIGN KEY ("shipment") REFERENCES "public"."shipments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shipments" ADD CONSTRAINT "shipments_project_projects_id_fk" FOREIGN KEY ("project") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shipments" ADD CONSTRAINT "shipments_document_ship_documents_hash_fk" FOREIGN KEY ("document") REFERENCES "public"."ship_documents"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "made_clips_state" ON "made_clips" USING btree ("state","asked");--> statement-breakpoint
CREATE INDEX "shipment_clips_key" ON "shipment_clips" USING btree ("key");--> statement-breakpoint
CREATE INDEX "shipments_project" ON "shipments" USING btree ("project","created");