-- A second wall between organisations, behind the conditions of the queries: a connection says for which one it asks,
-- by the setting mast.organisation, or '*' for the server's own work; without it nothing is seen.
-- Superusers are not held by it, and owners by FORCE alone.
ALTER TABLE "organisations" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "organisations" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "organisations" USING (current_setting('mast.organisation', true) IN ('*', "id"::text));--> statement-breakpoint
ALTER TABLE "people" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "people" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "people" USING (current_setting('mast.organisation', true) IN ('*', "organisation_id"::text));--> statement-breakpoint
ALTER TABLE "sites" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "sites" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "sites" USING (current_setting('mast.organisation', true) IN ('*', "organisation_id"::text));--> statement-breakpoint
ALTER TABLE "templates" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "templates" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "templates" USING (current_setting('mast.organisation', true) IN ('*', "organisation_id"::text));--> statement-breakpoint
ALTER TABLE "audit_lines" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "audit_lines" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "audit_lines" USING (current_setting('mast.organisation', true) = '*' OR current_setting('mast.organisation', true) = "organisation_id"::text);--> statement-breakpoint
ALTER TABLE "plans" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "plans" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "plans" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "plans"."site_id"));--> statement-breakpoint
ALTER TABLE "plan_revisions" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "plan_revisions" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "plan_revisions" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "plan_revisions"."site_id"));--> statement-breakpoint
ALTER TABLE "claims" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "claims" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "claims" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "claims"."site_id"));--> statement-breakpoint
ALTER TABLE "past_claims" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "past_claims" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "past_claims" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "past_claims"."site_id"));--> statement-breakpoint
ALTER TABLE "lab_devices" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "lab_devices" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "lab_devices" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "lab_devices"."site_id"));--> statement-breakpoint
ALTER TABLE "lab_faults" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "lab_faults" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "lab_faults" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "lab_faults"."site_id"));--> statement-breakpoint
ALTER TABLE "test_results" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "test_results" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "test_results" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "test_results"."site_id"));--> statement-breakpoint
ALTER TABLE "step_records" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "step_records" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "step_records" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "step_records"."site_id"));--> statement-breakpoint
ALTER TABLE "step_photos" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "step_photos" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "step_photos" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "step_photos"."site_id"));--> statement-breakpoint
ALTER TABLE "ticks" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "ticks" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "ticks" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "ticks"."site_id"));--> statement-breakpoint
ALTER TABLE "tunnel_keys" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "tunnel_keys" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "tunnel_keys" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "tunnel_keys"."site_id"));--> statement-breakpoint
ALTER TABLE "passphrases" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "passphrases" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "passphrases" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "passphrases"."site_id"));--> statement-breakpoint
ALTER TABLE "what_if_runs" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "what_if_runs" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "what_if_runs" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "what_if_runs"."site_id"));--> statement-breakpoint
ALTER TABLE "radio_levels" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "radio_levels" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "radio_levels" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "radio_levels"."site_id"));--> statement-breakpoint
ALTER TABLE "lab_aims" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "lab_aims" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "lab_aims" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "lab_aims"."site_id"));--> statement-breakpoint
ALTER TABLE "site_roles" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "site_roles" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "site_roles" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "site_roles"."site_id"));--> statement-breakpoint
ALTER TABLE "site_transfers" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "site_transfers" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "site_transfers" USING (EXISTS (SELECT FROM "sites" WHERE "sites"."id" = "site_transfers"."site_id"));--> statement-breakpoint
ALTER TABLE "sessions" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "sessions" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "sessions" USING (EXISTS (SELECT FROM "people" WHERE "people"."id" = "sessions"."person_id"));--> statement-breakpoint
ALTER TABLE "one_time_links" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "one_time_links" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "one_time_links" USING (current_setting('mast.organisation', true) = '*' OR EXISTS (SELECT FROM "people" WHERE "people"."id" = "one_time_links"."person_id"));--> statement-breakpoint
ALTER TABLE "adoption_events" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "adoption_events" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "adoption_events" USING (current_setting('mast.organisation', true) = '*' OR EXISTS (SELECT FROM "claims" WHERE "claims"."serial" = "adoption_events"."serial"));
