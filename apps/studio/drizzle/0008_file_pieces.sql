CREATE TABLE "file_pieces" (
	"file" text NOT NULL,
	"index" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "file_pieces_file_index_pk" PRIMARY KEY("file","index")
);
--> statement-breakpoint
INSERT INTO "file_pieces" ("file", "index", "bytes")
	SELECT 'character ' || "project" || ' ' || "hash", "piece", substring("bytes" FROM "piece" * 4000000 + 1 FOR 4000000)
	FROM "characters", generate_series(0, (octet_length("bytes") - 1) / 4000000) AS "piece"
	ON CONFLICT DO NOTHING;
--> statement-breakpoint
INSERT INTO "file_pieces" ("file", "index", "bytes")
	SELECT 'fit ' || "id", "piece", substring("bytes" FROM "piece" * 4000000 + 1 FOR 4000000)
	FROM "fit_jobs", generate_series(0, (octet_length("bytes") - 1) / 4000000) AS "piece"
	WHERE "bytes" IS NOT NULL;
--> statement-breakpoint
ALTER TABLE "characters" DROP COLUMN "bytes";--> statement-breakpoint
ALTER TABLE "fit_jobs" DROP COLUMN "bytes";