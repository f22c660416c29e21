CREATE TABLE "blob_chunks" (
	"blob_id" uuid NOT NULL,
	"n" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "blob_chunks_blob_id_n_pk" PRIMARY KEY("blob_id","n")
);
--> statement-breakpoint
CREATE TABLE "blobs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"size" bigint DEFAULT 0 NOT NULL,
	"sha256" text,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "changes" (
	"project_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"id" uuid NOT NULL,
	"client_id" text NOT NULL,
	"label" text NOT NULL,
	"kind" text NOT NULL,
	"of" uuid,
	"change" jsonb NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "changes_project_id_seq_pk" PRIMARY KEY("project_id","seq")
);
--> statement-breakpoint
CREATE TABLE "entities" (
	"project_id" uuid NOT NULL,
	"id" text NOT NULL,
	"type" text NOT NULL,
	"data" jsonb NOT NULL,
	CONSTRAINT "entities_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
CREATE TABLE "files" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" uuid NOT NULL,
	"blob_id" uuid NOT NULL,
	"name" text NOT NULL,
	"kind" text,
	"status" text DEFAULT 'waiting' NOT NULL,
	"message" text,
	"pages" integer DEFAULT 0 NOT NULL,
	"pages_read" integer DEFAULT 0 NOT NULL,
	"encrypted" boolean DEFAULT false NOT NULL,
	"repaired" boolean DEFAULT false NOT NULL,
	"password" text,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "meta" (
	"key" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "projects" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"seq" integer DEFAULT 0 NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"updated" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "sheets" (
	"file_id" uuid NOT NULL,
	"page" integer NOT NULL,
	"width" double precision NOT NULL,
	"height" double precision NOT NULL,
	"content" text NOT NULL,
	"counts" jsonb NOT NULL,
	"left_out" jsonb NOT NULL,
	"layers" jsonb NOT NULL,
	"scale_notes" jsonb NOT NULL,
	"linework_blob_id" uuid,
	"picture" "bytea",
	"milliseconds" double precision NOT NULL,
	CONSTRAINT "sheets_file_id_page_pk" PRIMARY KEY("file_id","page")
);
--> statement-breakpoint
ALTER TABLE "blob_chunks" ADD CONSTRAINT "blob_chunks_blob_id_blobs_id_fk" FOREIGN KEY ("blob_id") REFERENCES "public"."blobs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "changes" ADD CONSTRAINT "changes_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "entities" ADD CONSTRAINT "entities_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "files" ADD CONSTRAINT "files_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "files" ADD CONSTRAINT "files_blob_id_blobs_id_fk" FOREIGN KEY ("blob_id") REFERENCES "public"."blobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sheets" ADD CONSTRAINT "sheets_file_id_files_id_fk" FOREIGN KEY ("file_id") REFERENCES "public"."files"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sheets" ADD CONSTRAINT "sheets_linework_blob_id_blobs_id_fk" FOREIGN KEY ("linework_blob_id") REFERENCES "public"."blobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "changes_id" ON "changes" USING btree ("project_id","id");--> statement-breakpoint
CREATE INDEX "files_project" ON "files" USING btree ("project_id");