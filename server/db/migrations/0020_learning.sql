CREATE TABLE "learned_elsewhere" (
	"id" serial PRIMARY KEY NOT NULL,
	"shop" text NOT NULL,
	"families" json NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "lesson" (
	"case_id" integer PRIMARY KEY NOT NULL,
	"family_id" text NOT NULL,
	"lesson" json NOT NULL,
	"missed" boolean NOT NULL,
	"left_out" text
);
--> statement-breakpoint
CREATE TABLE "tally" (
	"family_id" text PRIMARY KEY NOT NULL,
	"tallies" json NOT NULL
);
--> statement-breakpoint
ALTER TABLE "identification" ADD COLUMN "learned" json;--> statement-breakpoint
ALTER TABLE "learned_elsewhere" ADD CONSTRAINT "learned_elsewhere_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lesson" ADD CONSTRAINT "lesson_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "lesson_missed" ON "lesson" USING btree ("case_id") WHERE missed;--> statement-breakpoint
CREATE INDEX "lesson_left_out" ON "lesson" USING btree ("case_id") WHERE left_out is not null;--> statement-breakpoint
-- Cases that were proven before there were lessons teach their cause.
INSERT INTO "lesson" ("case_id", "family_id", "lesson", "missed")
SELECT id, family_id, json_build_object('v', 1, 'cause', conclusion_fault, 'line', '', 'tests', '[]'::json, 'fixes', '[]'::json, 'said', null, 'missed', false, 'options', '[]'::json, 'stayed', null), false
FROM case_file WHERE state = 'closed' AND conclusion = 'proven' AND conclusion_fault IS NOT NULL AND opened_by NOT LIKE 'elsewhere-%';
--> statement-breakpoint
INSERT INTO "tally" ("family_id", "tallies")
SELECT family_id, json_build_object('v', 1, 'causes', json_object_agg(fault, n), 'lines', '{}'::json, 'tests', '{}'::json, 'fixes', '{}'::json,
  'said', (SELECT json_agg(json_build_object('n', 0, 'right', 0)) FROM generate_series(1, 10)), 'missed', 0, 'options', '{}'::json, 'asked', 0, 'stayed', 0)
FROM (SELECT family_id, conclusion_fault AS fault, count(*)::int AS n FROM case_file
  WHERE state = 'closed' AND conclusion = 'proven' AND conclusion_fault IS NOT NULL AND opened_by NOT LIKE 'elsewhere-%' GROUP BY 1, 2) counted
GROUP BY family_id;
