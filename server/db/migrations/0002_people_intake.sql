CREATE TABLE "counter_reading" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"counter" text NOT NULL,
	"unit" text NOT NULL,
	"phase" text NOT NULL,
	"value" double precision NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "custody" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"tag" text NOT NULL,
	"act" text NOT NULL,
	"contact_id" integer,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "draft" (
	"id" text PRIMARY KEY NOT NULL,
	"by" text NOT NULL,
	"fields" json NOT NULL,
	"updated_at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "failed_tries" (
	"id" text PRIMARY KEY NOT NULL,
	"count" integer NOT NULL,
	"last_at" bigint NOT NULL,
	"blocked_until" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "invitation" (
	"id" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"created_at" bigint NOT NULL,
	"expires_at" bigint NOT NULL,
	"used_at" bigint
);
--> statement-breakpoint
CREATE TABLE "part" (
	"case_id" integer NOT NULL,
	"tag" text NOT NULL,
	"what" text NOT NULL,
	"label" text NOT NULL,
	"note" text NOT NULL,
	CONSTRAINT "part_case_id_tag_pk" PRIMARY KEY("case_id","tag")
);
--> statement-breakpoint
CREATE TABLE "photo" (
	"id" text PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"key_tag" text,
	"caption" text NOT NULL,
	"type" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"data" "bytea" NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "session" (
	"id" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"device" text NOT NULL,
	"address" text NOT NULL,
	"at_bay" boolean NOT NULL,
	"locked" boolean DEFAULT false NOT NULL,
	"pin_failures" integer DEFAULT 0 NOT NULL,
	"created_at" bigint NOT NULL,
	"touched_at" bigint NOT NULL,
	"ended_at" bigint
);
--> statement-breakpoint
CREATE TABLE "shop" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"currency" text NOT NULL,
	"labour_rate" double precision NOT NULL,
	"equipment" json NOT NULL
);
--> statement-breakpoint
CREATE TABLE "state_change" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"state" text NOT NULL,
	"reason" text NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "audit" ALTER COLUMN "by" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "ability" ADD COLUMN "source" text DEFAULT 'seen' NOT NULL;--> statement-breakpoint
ALTER TABLE "bay" ADD COLUMN "retired" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "case_file" ADD COLUMN "kind" text DEFAULT 'vehicle' NOT NULL;--> statement-breakpoint
ALTER TABLE "case_file" ADD COLUMN "complaint" json DEFAULT '{}'::json NOT NULL;--> statement-breakpoint
ALTER TABLE "case_file" ADD COLUMN "condition" json DEFAULT '{}'::json NOT NULL;--> statement-breakpoint
ALTER TABLE "case_file" ADD COLUMN "closing" text;--> statement-breakpoint
ALTER TABLE "case_file" ADD COLUMN "search" "tsvector";--> statement-breakpoint
ALTER TABLE "case_key" ADD COLUMN "code" text NOT NULL DEFAULT upper(substr(md5(random()::text || clock_timestamp()::text), 1, 8));--> statement-breakpoint
ALTER TABLE "case_key" ALTER COLUMN "code" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "case_key" ADD COLUMN "kind" text DEFAULT 'unknown' NOT NULL;--> statement-breakpoint
ALTER TABLE "case_key" ADD COLUMN "marks" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "case_key" ADD COLUMN "colour" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "case_key" ADD COLUMN "condition" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "case_key" ADD COLUMN "cell" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "case_key" ADD COLUMN "to_fit" json;--> statement-breakpoint
ALTER TABLE "customer" ADD COLUMN "erased_at" bigint;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "role" text DEFAULT 'technician' NOT NULL;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "state" text DEFAULT 'recorded' NOT NULL;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "name_key" text;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "passphrase" text;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "pin" text;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "created_at" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "counter_reading" ADD CONSTRAINT "counter_reading_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "counter_reading" ADD CONSTRAINT "counter_reading_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "custody" ADD CONSTRAINT "custody_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "custody" ADD CONSTRAINT "custody_contact_id_customer_id_fk" FOREIGN KEY ("contact_id") REFERENCES "public"."customer"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "custody" ADD CONSTRAINT "custody_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft" ADD CONSTRAINT "draft_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invitation" ADD CONSTRAINT "invitation_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "part" ADD CONSTRAINT "part_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photo" ADD CONSTRAINT "photo_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photo" ADD CONSTRAINT "photo_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "state_change" ADD CONSTRAINT "state_change_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "state_change" ADD CONSTRAINT "state_change_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "counter_case" ON "counter_reading" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "custody_case" ON "custody" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "photo_case" ON "photo" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "session_person" ON "session" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "state_change_case" ON "state_change" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "audit_case" ON "audit" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "case_file_vehicle" ON "case_file" USING btree ("vehicle","id");--> statement-breakpoint
CREATE INDEX "case_file_identification" ON "case_file" USING btree ("identification");--> statement-breakpoint
CREATE INDEX "case_file_plate" ON "case_file" USING btree ("plate");--> statement-breakpoint
CREATE INDEX "case_file_search" ON "case_file" USING gin ("search");--> statement-breakpoint
ALTER TABLE "case_key" ADD CONSTRAINT "case_key_code_unique" UNIQUE("code");--> statement-breakpoint
ALTER TABLE "person" ADD CONSTRAINT "person_name_key_unique" UNIQUE("name_key");--> statement-breakpoint
UPDATE "person" SET "role" = CASE WHEN "roles"::text LIKE '%owner%' THEN 'owner' WHEN "roles"::text LIKE '%lead%' THEN 'lead' ELSE 'technician' END;--> statement-breakpoint
UPDATE "case_file" SET "closing" = 'done' WHERE "state" = 'closed';
