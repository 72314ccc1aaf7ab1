CREATE TABLE "tunnel_keys" (
	"site_id" integer NOT NULL,
	"owner" text NOT NULL,
	"public_key" text NOT NULL,
	"sealed" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"made_by" text NOT NULL,
	"shown_at" timestamp with time zone,
	"shown_by" text,
	CONSTRAINT "tunnel_keys_site_id_owner_pk" PRIMARY KEY("site_id","owner")
);
--> statement-breakpoint
ALTER TABLE "tunnel_keys" ADD CONSTRAINT "tunnel_keys_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;