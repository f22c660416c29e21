CREATE TABLE "shelf" (
	"id" text PRIMARY KEY NOT NULL,
	"form" integer NOT NULL,
	"data" jsonb NOT NULL,
	"version" integer NOT NULL
);
