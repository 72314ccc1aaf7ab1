CREATE TABLE "webhook_deliveries" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"webhook_id" integer NOT NULL,
	"body" text NOT NULL,
	"due_at" timestamp with time zone NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "webhooks" (
	"id" serial PRIMARY KEY NOT NULL,
	"organisation_id" integer NOT NULL,
	"url" text NOT NULL,
	"events" text[] NOT NULL,
	"sealed" text NOT NULL,
	"added_at" timestamp with time zone NOT NULL,
	"added_by" text NOT NULL,
	"paused" text,
	"last_at" timestamp with time zone,
	"last_outcome" text,
	"last_status" integer
);
--> statement-breakpoint
ALTER TABLE "webhook_deliveries" ADD CONSTRAINT "webhook_deliveries_webhook_id_webhooks_id_fk" FOREIGN KEY ("webhook_id") REFERENCES "public"."webhooks"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "webhooks" ADD CONSTRAINT "webhooks_organisation_id_organisations_id_fk" FOREIGN KEY ("organisation_id") REFERENCES "public"."organisations"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "webhook_deliveries_due" ON "webhook_deliveries" USING btree ("due_at");--> statement-breakpoint
CREATE INDEX "webhook_deliveries_webhook" ON "webhook_deliveries" USING btree ("webhook_id");--> statement-breakpoint
CREATE INDEX "webhooks_organisation" ON "webhooks" USING btree ("organisation_id");--> statement-breakpoint
ALTER TABLE "webhooks" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "webhooks" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "webhooks" USING (current_setting('mast.organisation', true) IN ('*', "organisation_id"::text));--> statement-breakpoint
ALTER TABLE "webhook_deliveries" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "webhook_deliveries" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "webhook_deliveries" USING (EXISTS (SELECT FROM "webhooks" WHERE "webhooks"."id" = "webhook_deliveries"."webhook_id"));
