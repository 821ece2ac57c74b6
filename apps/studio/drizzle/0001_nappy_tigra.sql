CREATE TABLE "repairs" (
	"project" text NOT NULL,
	"signature" text NOT NULL,
	"overrides" jsonb NOT NULL,
	CONSTRAINT "repairs_project_signature_pk" PRIMARY KEY("project","signature")
);
--> statement-breakpoint
CREATE TABLE "skeleton_files" (
	"project" text NOT NULL,
	"hash" text NOT NULL,
	"file" text NOT NULL,
	"bytes" "bytea" NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "skeleton_files_project_hash_pk" PRIMARY KEY("project","hash")
);
--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "hash" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "signature" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "tags" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "notes" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "star" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "markers" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "props" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "repairs" ADD CONSTRAINT "repairs_project_projects_id_fk" FOREIGN KEY ("project") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "skeleton_files" ADD CONSTRAINT "skeleton_files_project_projects_id_fk" FOREIGN KEY ("project") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;