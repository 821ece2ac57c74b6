CREATE TABLE "clips" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project" text NOT NULL,
	"take" uuid NOT NULL,
	"name" text NOT NULL,
	"from_frame" integer NOT NULL,
	"to_frame" integer NOT NULL,
	"steps" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"updated" timestamp with time zone DEFAULT now() NOT NULL,
	"removed" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "projects" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"character" text NOT NULL,
	"fps" real DEFAULT 60 NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "take_chunks" (
	"take" uuid NOT NULL,
	"index" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "take_chunks_take_index_pk" PRIMARY KEY("take","index")
);
--> statement-breakpoint
CREATE TABLE "takes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project" text NOT NULL,
	"name" text NOT NULL,
	"file" text NOT NULL,
	"frames" integer NOT NULL,
	"fps" real NOT NULL,
	"skeleton" jsonb NOT NULL,
	"moving" jsonb NOT NULL,
	"passport" jsonb NOT NULL,
	"overrides" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"path" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"removed" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "clips" ADD CONSTRAINT "clips_project_projects_id_fk" FOREIGN KEY ("project") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clips" ADD CONSTRAINT "clips_take_takes_id_fk" FOREIGN KEY ("take") REFERENCES "public"."takes"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "take_chunks" ADD CONSTRAINT "take_chunks_take_takes_id_fk" FOREIGN KEY ("take") REFERENCES "public"."takes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "takes" ADD CONSTRAINT "takes_project_projects_id_fk" FOREIGN KEY ("project") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "clips_project" ON "clips" USING btree ("project");--> statement-breakpoint
CREATE INDEX "takes_project" ON "takes" USING btree ("project");