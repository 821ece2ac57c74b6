CREATE TABLE "characters" (
	"project" text NOT NULL,
	"id" text NOT NULL,
	"name" text NOT NULL,
	"file" text NOT NULL,
	"hash" text NOT NULL,
	"facts" jsonb NOT NULL,
	"bytes" "bytea" NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"removed" timestamp with time zone,
	CONSTRAINT "characters_project_id_pk" PRIMARY KEY("project","id")
);
--> statement-breakpoint
CREATE TABLE "fit_jobs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project" text NOT NULL,
	"run" uuid NOT NULL,
	"take" uuid NOT NULL,
	"character" text NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"beat" timestamp with time zone,
	"tries" integer DEFAULT 0 NOT NULL,
	"report" jsonb,
	"message" text DEFAULT '' NOT NULL,
	"bytes" "bytea",
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"finished" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "fits" (
	"project" text NOT NULL,
	"source" text NOT NULL,
	"character" text NOT NULL,
	"settings" jsonb NOT NULL,
	"updated" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "fits_project_source_character_pk" PRIMARY KEY("project","source","character")
);
--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "fit_to" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "characters" ADD CONSTRAINT "characters_project_projects_id_fk" FOREIGN KEY ("project") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fit_jobs" ADD CONSTRAINT "fit_jobs_project_projects_id_fk" FOREIGN KEY ("project") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fit_jobs" ADD CONSTRAINT "fit_jobs_take_takes_id_fk" FOREIGN KEY ("take") REFERENCES "public"."takes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fits" ADD CONSTRAINT "fits_project_projects_id_fk" FOREIGN KEY ("project") REFERENCES "public"."projects"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "fit_jobs_project" ON "fit_jobs" USING btree ("project","created");