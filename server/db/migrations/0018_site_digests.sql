CREATE TABLE "site_digests" (
	"site_id" integer PRIMARY KEY NOT NULL,
	"mark" text NOT NULL,
	"digest" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "site_digests" ADD CONSTRAINT "site_digests_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "site_digests" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "site_digests" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "site_digests" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "site_digests"."site_id"));
