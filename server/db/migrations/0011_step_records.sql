CREATE TABLE "step_records" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"site_id" integer NOT NULL,
	"activity_id" text NOT NULL,
	"state" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone NOT NULL,
	"who" text NOT NULL,
	"reading" text NOT NULL,
	"note" text NOT NULL,
	"person" text NOT NULL,
	"key" text,
	CONSTRAINT "step_records_site_id_key_unique" UNIQUE("site_id","key")
);
--> statement-breakpoint
ALTER TABLE "step_records" ADD CONSTRAINT "step_records_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "step_records_site_id_id_index" ON "step_records" USING btree ("site_id","id");