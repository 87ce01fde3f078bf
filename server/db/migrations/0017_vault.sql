CREATE TABLE "passing" (
	"hash" text PRIMARY KEY NOT NULL,
	"sealed_id" text NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL,
	"used_by" text,
	"used_at" bigint
);
--> statement-breakpoint
CREATE TABLE "release" (
	"id" text PRIMARY KEY NOT NULL,
	"sealed_id" text NOT NULL,
	"reason" text NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL,
	"granted_by" text,
	"granted_at" bigint,
	"used_at" bigint
);
--> statement-breakpoint
CREATE TABLE "sealed" (
	"id" text PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"file" text NOT NULL,
	"size" integer NOT NULL,
	"digest" text NOT NULL,
	"envelope" "bytea",
	"reason" text NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL,
	"disposition" text,
	"keep_until" bigint,
	"destroyed_by" text,
	"destroyed_at" bigint,
	"destroyed_why" text,
	"wrong_tries" integer DEFAULT 0 NOT NULL,
	"wrong_at" bigint
);
--> statement-breakpoint
ALTER TABLE "shop" ADD COLUMN "release_by_two" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "passing" ADD CONSTRAINT "passing_sealed_id_sealed_id_fk" FOREIGN KEY ("sealed_id") REFERENCES "public"."sealed"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passing" ADD CONSTRAINT "passing_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passing" ADD CONSTRAINT "passing_used_by_person_id_fk" FOREIGN KEY ("used_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release" ADD CONSTRAINT "release_sealed_id_sealed_id_fk" FOREIGN KEY ("sealed_id") REFERENCES "public"."sealed"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release" ADD CONSTRAINT "release_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "release" ADD CONSTRAINT "release_granted_by_person_id_fk" FOREIGN KEY ("granted_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sealed" ADD CONSTRAINT "sealed_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sealed" ADD CONSTRAINT "sealed_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sealed" ADD CONSTRAINT "sealed_destroyed_by_person_id_fk" FOREIGN KEY ("destroyed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "passing_sealed" ON "passing" USING btree ("sealed_id");--> statement-breakpoint
CREATE INDEX "release_sealed" ON "release" USING btree ("sealed_id");--> statement-breakpoint
CREATE INDEX "sealed_case" ON "sealed" USING btree ("case_id");