CREATE TABLE "authenticators" (
	"person_id" integer PRIMARY KEY NOT NULL,
	"sealed" text NOT NULL,
	"confirmed_at" timestamp with time zone,
	"last_step" bigint DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "challenges" (
	"challenge" text PRIMARY KEY NOT NULL,
	"person_id" integer,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "passkeys" (
	"id" text PRIMARY KEY NOT NULL,
	"person_id" integer NOT NULL,
	"name" text NOT NULL,
	"public_key" text NOT NULL,
	"counter" bigint NOT NULL,
	"transports" text NOT NULL,
	"added_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "recovery_codes" (
	"person_id" integer NOT NULL,
	"code_hash" text NOT NULL,
	CONSTRAINT "recovery_codes_person_id_code_hash_pk" PRIMARY KEY("person_id","code_hash")
);
--> statement-breakpoint
ALTER TABLE "authenticators" ADD CONSTRAINT "authenticators_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "challenges" ADD CONSTRAINT "challenges_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passkeys" ADD CONSTRAINT "passkeys_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recovery_codes" ADD CONSTRAINT "recovery_codes_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "passkeys_person" ON "passkeys" USING btree ("person_id");--> statement-breakpoint
ALTER TABLE "authenticators" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "authenticators" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "authenticators" USING (EXISTS (SELECT FROM "people" WHERE "people"."id" = "authenticators"."person_id"));--> statement-breakpoint
ALTER TABLE "recovery_codes" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "recovery_codes" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "recovery_codes" USING (EXISTS (SELECT FROM "people" WHERE "people"."id" = "recovery_codes"."person_id"));--> statement-breakpoint
ALTER TABLE "passkeys" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "passkeys" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "passkeys" USING (EXISTS (SELECT FROM "people" WHERE "people"."id" = "passkeys"."person_id"));--> statement-breakpoint
ALTER TABLE "challenges" ENABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "challenges" FORCE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE POLICY "of_organisation" ON "challenges" USING (current_setting('mast.organisation', true) = '*');
