CREATE TABLE "past_claims" (
	"id" serial PRIMARY KEY NOT NULL,
	"site_id" integer NOT NULL,
	"device_id" text NOT NULL,
	"serial" text NOT NULL,
	"claimed_at" timestamp with time zone NOT NULL,
	"released_at" timestamp with time zone NOT NULL,
	"released_by" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "past_claims" ADD CONSTRAINT "past_claims_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "past_claims_site_id_device_id_index" ON "past_claims" USING btree ("site_id","device_id");--> statement-breakpoint
CREATE INDEX "past_claims_serial_index" ON "past_claims" USING btree ("serial");