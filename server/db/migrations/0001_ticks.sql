CREATE TABLE "ticks" (
	"site_id" integer NOT NULL,
	"item" text NOT NULL,
	"who" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "ticks_site_id_item_pk" PRIMARY KEY("site_id","item")
);
--> statement-breakpoint
ALTER TABLE "ticks" ADD CONSTRAINT "ticks_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;