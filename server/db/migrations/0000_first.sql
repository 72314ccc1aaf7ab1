CREATE TYPE "public"."power" AS ENUM('off', 'starting', 'on');--> statement-breakpoint
CREATE TYPE "public"."result_source" AS ENUM('lab', 'hand');--> statement-breakpoint
CREATE TYPE "public"."role" AS ENUM('planner', 'rigger', 'keeper');--> statement-breakpoint
CREATE TYPE "public"."serial_kind" AS ENUM('product', 'board', 'certificate');--> statement-breakpoint
CREATE TABLE "adoption_events" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"serial" text NOT NULL,
	"model" text NOT NULL,
	"event" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "claims" (
	"id" serial PRIMARY KEY NOT NULL,
	"site_id" integer NOT NULL,
	"device_id" text NOT NULL,
	"serial" text NOT NULL,
	"kind" serial_kind NOT NULL,
	"claimed_at" timestamp with time zone NOT NULL,
	"claimed_by" text NOT NULL,
	CONSTRAINT "claims_serial_unique" UNIQUE("serial"),
	CONSTRAINT "claims_site_id_device_id_unique" UNIQUE("site_id","device_id")
);
--> statement-breakpoint
CREATE TABLE "lab_devices" (
	"serial" text PRIMARY KEY NOT NULL,
	"site_id" integer NOT NULL,
	"board_serial" text NOT NULL,
	"label" text NOT NULL,
	"model" text NOT NULL,
	"firmware" text NOT NULL,
	"factory" boolean NOT NULL,
	"power" "power" DEFAULT 'off' NOT NULL,
	"sign" text DEFAULT 'none' NOT NULL,
	"plug_device_id" text NOT NULL,
	"plug_port_id" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "lab_faults" (
	"site_id" integer PRIMARY KEY NOT NULL,
	"fault" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"role" "role" NOT NULL,
	"password_hash" text NOT NULL,
	CONSTRAINT "people_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "plan_revisions" (
	"site_id" integer NOT NULL,
	"revision" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"author" text NOT NULL,
	"words" text NOT NULL,
	"patch" jsonb NOT NULL,
	"snapshot" jsonb,
	CONSTRAINT "plan_revisions_site_id_revision_pk" PRIMARY KEY("site_id","revision")
);
--> statement-breakpoint
CREATE TABLE "plans" (
	"site_id" integer PRIMARY KEY NOT NULL,
	"revision" integer NOT NULL,
	"document" jsonb NOT NULL,
	"saved_at" timestamp with time zone NOT NULL,
	"author" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sign_in_failures" (
	"key" text PRIMARY KEY NOT NULL,
	"count" integer NOT NULL,
	"last_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sites" (
	"id" serial PRIMARY KEY NOT NULL,
	"slug" text NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "sites_slug_unique" UNIQUE("slug")
);
--> statement-breakpoint
CREATE TABLE "test_results" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"site_id" integer NOT NULL,
	"test_id" text NOT NULL,
	"revision" integer NOT NULL,
	"passed" boolean NOT NULL,
	"value" text NOT NULL,
	"who" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"vantage" text NOT NULL,
	"note" text NOT NULL,
	"source" "result_source" NOT NULL
);
--> statement-breakpoint
ALTER TABLE "claims" ADD CONSTRAINT "claims_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lab_devices" ADD CONSTRAINT "lab_devices_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lab_faults" ADD CONSTRAINT "lab_faults_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD CONSTRAINT "plan_revisions_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_results" ADD CONSTRAINT "test_results_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "adoption_events_serial_id_index" ON "adoption_events" USING btree ("serial","id");--> statement-breakpoint
CREATE INDEX "test_results_site_id_test_id_id_index" ON "test_results" USING btree ("site_id","test_id","id");