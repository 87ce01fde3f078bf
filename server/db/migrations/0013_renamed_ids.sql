-- Ids that were named anew (core/library/renamed.ts): rows hold today's names; documents keep the body that their hash is of, and are read with today's.
CREATE FUNCTION renamed_ids(t text) RETURNS text LANGUAGE sql IMMUTABLE AS $$
  SELECT replace(
    regexp_replace(
      regexp_replace(
        regexp_replace(
          regexp_replace(
            regexp_replace(t, '\mguard(Forgot|Unpaired|Module|Missing|Feed|Internal|Fuse)\M', 'immobilizer\1', 'g'),
            '\mguardAccepts\M', 'keyAccepted', 'g'),
          '\mengineReleases\M', 'startEnabled', 'g'),
        '\mswitchFeed\M', 'ignitionFeed', 'g'),
      '\mengineModule\M', 'ecm', 'g'),
    'engine-guard', 'engine-immobilizer')
$$;
--> statement-breakpoint
ALTER TABLE "document" DISABLE TRIGGER document_append_only;
--> statement-breakpoint
ALTER TABLE "evidence" DISABLE TRIGGER evidence_append_only;
--> statement-breakpoint
ALTER TABLE "identification" DISABLE TRIGGER identification_append_only;
--> statement-breakpoint
ALTER TABLE "lamp_reading" DISABLE TRIGGER lamp_reading_append_only;
--> statement-breakpoint
UPDATE "document" SET "id" = 'engine-immobilizer' WHERE "kind" = 'family' AND "id" = 'engine-guard';
--> statement-breakpoint
UPDATE "evidence" SET "test" = renamed_ids("test"), "outcome" = renamed_ids("outcome") WHERE renamed_ids("test") <> "test" OR renamed_ids("outcome") <> "outcome";
--> statement-breakpoint
UPDATE "identification" SET "family" = renamed_ids("family"::text)::json, "proven" = renamed_ids("proven"::text)::json WHERE renamed_ids("family"::text) <> "family"::text OR renamed_ids("proven"::text) <> "proven"::text;
--> statement-breakpoint
UPDATE "lamp_reading" SET "family" = renamed_ids("family"::text)::json WHERE renamed_ids("family"::text) <> "family"::text;
--> statement-breakpoint
UPDATE "case_file" SET "family_id" = renamed_ids("family_id"), "conclusion_fault" = renamed_ids("conclusion_fault"), "changed" = renamed_ids("changed"::text)::json WHERE renamed_ids("family_id") <> "family_id" OR renamed_ids("conclusion_fault") <> "conclusion_fault" OR renamed_ids("changed"::text) <> "changed"::text;
--> statement-breakpoint
UPDATE "call" SET "system" = renamed_ids("system"), "answers" = renamed_ids("answers"::text)::json WHERE renamed_ids("system") <> "system" OR renamed_ids("answers"::text) <> "answers"::text;
--> statement-breakpoint
UPDATE "draft" SET "fields" = renamed_ids("fields"::text)::json WHERE renamed_ids("fields"::text) <> "fields"::text;
--> statement-breakpoint
ALTER TABLE "document" ENABLE TRIGGER document_append_only;
--> statement-breakpoint
ALTER TABLE "evidence" ENABLE TRIGGER evidence_append_only;
--> statement-breakpoint
ALTER TABLE "identification" ENABLE TRIGGER identification_append_only;
--> statement-breakpoint
ALTER TABLE "lamp_reading" ENABLE TRIGGER lamp_reading_append_only;
--> statement-breakpoint
DROP FUNCTION renamed_ids(text);
