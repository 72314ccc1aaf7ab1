CREATE TABLE "authorities" (
	"purpose" text PRIMARY KEY NOT NULL,
	"certificate" text NOT NULL,
	"sealed" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "device_keys" (
	"serial" text PRIMARY KEY NOT NULL,
	"secret_hash" text,
	"expires_at" timestamp with time zone,
	"key_hash" text,
	"bound_at" timestamp with time zone,
	"revoked_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "device_keys" ADD CONSTRAINT "device_keys_serial_claims_serial_fk" FOREIGN KEY ("serial") REFERENCES "public"."claims"("serial") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "authorities" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "authorities" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "authorities" USING (current_setting('mast.organisation', true) = '*');--> statement-breakpoint
ALTER TABLE "device_keys" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "device_keys" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "device_keys" USING (EXISTS (SELECT FROM "claims" WHERE "claims"."serial" = "device_keys"."serial"));
