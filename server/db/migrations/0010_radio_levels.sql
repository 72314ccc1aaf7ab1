CREATE TABLE "lab_aims" (
	"site_id" integer NOT NULL,
	"link_id" text NOT NULL,
	"end" text NOT NULL,
	"azimuth_deg" double precision NOT NULL,
	"tilt_deg" double precision NOT NULL,
	CONSTRAINT "lab_aims_site_id_link_id_end_pk" PRIMARY KEY("site_id","link_id","end")
);
--> statement-breakpoint
CREATE TABLE "radio_levels" (
	"site_id" integer NOT NULL,
	"link_id" text NOT NULL,
	"end" text NOT NULL,
	"dbm" double precision NOT NULL,
	"who" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"simulated" boolean NOT NULL,
	CONSTRAINT "radio_levels_site_id_link_id_end_pk" PRIMARY KEY("site_id","link_id","end")
);
--> statement-breakpoint
ALTER TABLE "lab_aims" ADD CONSTRAINT "lab_aims_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "radio_levels" ADD CONSTRAINT "radio_levels_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;