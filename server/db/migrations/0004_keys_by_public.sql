DELETE FROM "tunnel_keys" a USING "tunnel_keys" b WHERE a."site_id" = b."site_id" AND a."public_key" = b."public_key" AND a."owner" > b."owner";--> statement-breakpoint
ALTER TABLE "tunnel_keys" DROP CONSTRAINT "tunnel_keys_site_id_owner_pk";--> statement-breakpoint
ALTER TABLE "tunnel_keys" ADD CONSTRAINT "tunnel_keys_site_id_public_key_pk" PRIMARY KEY("site_id","public_key");