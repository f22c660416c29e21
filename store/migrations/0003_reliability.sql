CREATE TABLE "project_pictures" (
	"project_id" uuid PRIMARY KEY NOT NULL,
	"seq" integer NOT NULL,
	"svg" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "blobs" ADD COLUMN "touched" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "beat" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "files" ADD COLUMN "attempts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "project_pictures" ADD CONSTRAINT "project_pictures_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "files_blob" ON "files" USING btree ("blob_id");--> statement-breakpoint
CREATE INDEX "files_drawing_blob" ON "files" USING btree ("drawing_blob_id");--> statement-breakpoint
CREATE INDEX "files_status" ON "files" USING btree ("status");--> statement-breakpoint
CREATE INDEX "sheets_linework_blob" ON "sheets" USING btree ("linework_blob_id");--> statement-breakpoint
ALTER TABLE "changes" ALTER COLUMN "change" SET COMPRESSION lz4;
--> statement-breakpoint
ALTER TABLE "entities" DROP CONSTRAINT "entities_project_id_projects_id_fk";
--> statement-breakpoint
CREATE INDEX "entities_stood_on" ON "entities" USING btree ("project_id","type") WHERE "entities"."type" in ('storey', 'underlay', 'layer', 'assembly');
