ALTER TABLE "test_results" ADD COLUMN "key" text;--> statement-breakpoint
ALTER TABLE "test_results" ADD CONSTRAINT "test_results_site_id_key_unique" UNIQUE("site_id","key");