CREATE TABLE "templates" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"document" jsonb NOT NULL,
	"kept_at" timestamp with time zone NOT NULL,
	"kept_by" text NOT NULL,
	CONSTRAINT "templates_name_unique" UNIQUE("name")
);
