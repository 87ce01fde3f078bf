INSERT INTO "state_change" ("case_id", "state", "reason", "by", "at") SELECT "id", 'closed', '', "closed_by", "closed_at" FROM "case_file" WHERE "state" = 'closed';
--> statement-breakpoint
CREATE TRIGGER custody_append_only BEFORE UPDATE OR DELETE ON custody FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER counter_reading_append_only BEFORE UPDATE OR DELETE ON counter_reading FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER state_change_append_only BEFORE UPDATE OR DELETE ON state_change FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
