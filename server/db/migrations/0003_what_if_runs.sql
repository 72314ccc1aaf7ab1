CREATE TYPE "public"."run_kind" AS ENUM('singles', 'pairs');--> statement-breakpoint
CREATE TYPE "public"."run_state" AS ENUM('waiting', 'running', 'done', 'stopped', 'failed');--> statement-breakpoint
CREATE TABLE "what_if_runs" (
	"id" serial PRIMARY KEY NOT NULL,
	"site_id" integer NOT NULL,
	"revision" integer NOT NULL,
	"kind" "run_kind" NOT NULL,
	"things" jsonb NOT NULL,
	"asked_at" timestamp with time zone NOT NULL,
	"asked_by" text NOT NULL,
	"state" "run_state" DEFAULT 'waiting' NOT NULL,
	"tried" integer DEFAULT 0 NOT NULL,
	"total" integer NOT NULL,
	"finished_at" timestamp with time zone,
	"result" jsonb
);
--> statement-breakpoint
ALTER TABLE "what_if_runs" ADD CONSTRAINT "what_if_runs_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "what_if_runs_site_id_id_index" ON "what_if_runs" USING btree ("site_id","id");