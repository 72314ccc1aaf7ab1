CREATE TABLE "identities" (
	"person_id" integer PRIMARY KEY NOT NULL,
	"issuer" text NOT NULL,
	"subject" text NOT NULL,
	"added_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "identities" ADD CONSTRAINT "identities_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "identities_subject" ON "identities" USING btree ("issuer","subject");--> statement-breakpoint
ALTER TABLE "identities" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "identities" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "identities" USING (EXISTS (SELECT FROM "people" WHERE "people"."id" = "identities"."person_id"));
