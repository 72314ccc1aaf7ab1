DROP INDEX "sites_organisation";--> statement-breakpoint
CREATE INDEX "sites_by_slug" ON "sites" USING btree ("organisation_id","slug");--> statement-breakpoint
CREATE INDEX "test_results_newest" ON "test_results" USING btree ("site_id","id");