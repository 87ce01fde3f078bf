CREATE TABLE "open_address" (
	"id" serial PRIMARY KEY NOT NULL,
	"hash" text NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"vehicles" boolean NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL,
	"revoked_at" bigint,
	CONSTRAINT "open_address_hash_unique" UNIQUE("hash")
);
--> statement-breakpoint
ALTER TABLE "open_address" ADD CONSTRAINT "open_address_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;