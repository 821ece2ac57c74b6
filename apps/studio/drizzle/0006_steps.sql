ALTER TABLE "clips" ADD COLUMN "file_steps" jsonb;
--> statement-breakpoint
-- Steps have ids now (each kind stood in a recipe once), and stand in the order of work.
UPDATE "clips" SET "steps" = (
	SELECT coalesce(jsonb_agg(jsonb_build_object('id', step->>'kind') || step ORDER BY
		array_position(ARRAY['fit','floor','typical-cycle','mirror','loop','even-out','speed','extend','path','foot-lock','travel','retime'], step->>'kind'), place), '[]'::jsonb)
	FROM jsonb_array_elements("steps") WITH ORDINALITY AS recipe(step, place)
);
--> statement-breakpoint
-- A clip's name is a file's name.
UPDATE "clips" SET "name" = regexp_replace("name", '[/\\:*?"<>|[:cntrl:]]', '-', 'g') WHERE "name" ~ '[/\\:*?"<>|[:cntrl:]]';
