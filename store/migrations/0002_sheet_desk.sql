CREATE TABLE "picture_tiles" (
	"file_id" uuid NOT NULL,
	"page" integer NOT NULL,
	"level" integer NOT NULL,
	"column" integer NOT NULL,
	"row" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "picture_tiles_file_id_page_level_column_row_pk" PRIMARY KEY("file_id","page","level","column","row")
);
--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "millimetres_per_unit" double precision;--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "drawing_blob_id" uuid;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "title" jsonb;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "words" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "hatches" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "dimensions" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "markups" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "reference" jsonb;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "unknown" jsonb;--> statement-breakpoint
ALTER TABLE "sheets" ADD COLUMN "pixels" jsonb;--> statement-breakpoint
ALTER TABLE "picture_tiles" ADD CONSTRAINT "picture_tiles_file_id_files_id_fk" FOREIGN KEY ("file_id") REFERENCES "public"."files"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "files" ADD CONSTRAINT "files_drawing_blob_id_blobs_id_fk" FOREIGN KEY ("drawing_blob_id") REFERENCES "public"."blobs"("id") ON DELETE no action ON UPDATE no action;