CREATE TABLE "step_photos" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"site_id" integer NOT NULL,
	"activity_id" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"who" text NOT NULL,
	"jpeg" "bytea" NOT NULL,
	"key" text,
	CONSTRAINT "step_photos_site_id_key_unique" UNIQUE("site_id","key")
);
--> statement-breakpoint
ALTER TABLE "step_records" ADD COLUMN "knows" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "step_records" ADD COLUMN "values" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "step_photos" ADD CONSTRAINT "step_photos_site_id_sites_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."sites"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "step_photos_site_id_id_index" ON "step_photos" USING btree ("site_id","id");