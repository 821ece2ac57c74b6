-- The numbers of a motion do not get smaller: they are stored as they are. Files do, and are packed by the quicker of the two methods.
ALTER TABLE "take_chunks" ALTER COLUMN "bytes" SET STORAGE EXTERNAL;--> statement-breakpoint
ALTER TABLE "file_pieces" ALTER COLUMN "bytes" SET COMPRESSION lz4;
