CREATE TABLE "audit_lines" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"who" text NOT NULL,
	"what" text NOT NULL,
	"site" text NOT NULL,
	"subject" text NOT NULL,
	"address" text NOT NULL,
	"hash" text NOT NULL
);
--> statement-breakpoint
CREATE INDEX "audit_lines_site_id_index" ON "audit_lines" USING btree ("site","id");--> statement-breakpoint
CREATE INDEX "audit_lines_who_id_index" ON "audit_lines" USING btree ("who","id");--> statement-breakpoint
CREATE FUNCTION "refuse_change"() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'lines of the audit are added, never changed'; END $$;--> statement-breakpoint
CREATE TRIGGER "audit_lines_stay" BEFORE UPDATE OR DELETE OR TRUNCATE ON "audit_lines" FOR EACH STATEMENT EXECUTE FUNCTION "refuse_change"();
