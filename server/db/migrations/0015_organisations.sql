CREATE TABLE "organisations" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"added_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "site_roles" (
	"person_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"role" "role" NOT NULL,
	CONSTRAINT "site_roles_person_id_site_id_pk" PRIMARY KEY("person_id","site_id")
);
--> statement-breakpoint
CREATE TABLE "site_transfers" (
	"site_id" integer PRIMARY KEY NOT NULL,
	"code_hash" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	CONSTRAINT "site_transfers_code_hash_unique" UNIQUE("code_hash")
);
--> statement-breakpoint
ALTER TABLE "templates" DROP CONSTRAINT "templates_name_unique";--> statement-breakpoint
ALTER TABLE "people" ALTER COLUMN "role" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "audit_lines" ADD COLUMN "organisation_id" integer;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "organisation_id" integer;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "is_operator" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "sites" ADD COLUMN "organisation_id" integer;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "organisation_id" integer;--> statement-breakpoint
-- What was there before there were organisations belongs to one; its first administrator may add others.
INSERT INTO "organisations" ("name") SELECT 'Organisation' WHERE EXISTS (SELECT FROM "people") OR EXISTS (SELECT FROM "sites");--> statement-breakpoint
UPDATE "people" SET "organisation_id" = (SELECT min("id") FROM "organisations");--> statement-breakpoint
ALTER TABLE "people" ALTER COLUMN "organisation_id" SET NOT NULL;--> statement-breakpoint
UPDATE "sites" SET "organisation_id" = (SELECT min("id") FROM "organisations");--> statement-breakpoint
ALTER TABLE "sites" ALTER COLUMN "organisation_id" SET NOT NULL;--> statement-breakpoint
UPDATE "templates" SET "organisation_id" = (SELECT min("id") FROM "organisations");--> statement-breakpoint
ALTER TABLE "templates" ALTER COLUMN "organisation_id" SET NOT NULL;--> statement-breakpoint
UPDATE "people" SET "is_operator" = true WHERE "id" = (SELECT min("id") FROM "people" WHERE "role"::text = 'administrator');--> statement-breakpoint
ALTER TABLE "site_roles" ADD CONSTRAINT "site_roles_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "site_roles" ADD CONSTRAINT "site_roles_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "site_transfers" ADD CONSTRAINT "site_transfers_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "organisations_name_any_case" ON "organisations" USING btree (lower("name"));--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_organisation_id_organisations_id_fk" FOREIGN KEY ("organisation_id") REFERENCES "public"."organisations"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sites" ADD CONSTRAINT "sites_organisation_id_organisations_id_fk" FOREIGN KEY ("organisation_id") REFERENCES "public"."organisations"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "templates" ADD CONSTRAINT "templates_organisation_id_organisations_id_fk" FOREIGN KEY ("organisation_id") REFERENCES "public"."organisations"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sites_organisation" ON "sites" USING btree ("organisation_id","id");--> statement-breakpoint
ALTER TABLE "templates" ADD CONSTRAINT "templates_organisation_id_name_unique" UNIQUE("organisation_id","name");