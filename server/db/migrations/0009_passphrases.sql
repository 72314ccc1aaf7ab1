CREATE TABLE "passphrases" (
	"site_id" integer NOT NULL,
	"ssid_id" text NOT NULL,
	"sealed" text NOT NULL,
	"set_at" timestamp with time zone NOT NULL,
	"set_by" text NOT NULL,
	"shown_at" timestamp with time zone,
	"shown_by" text,
	CONSTRAINT "passphrases_site_id_ssid_id_pk" PRIMARY KEY("site_id","ssid_id")
);
--> statement-breakpoint
ALTER TABLE "passphrases" ADD CONSTRAINT "passphrases_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;