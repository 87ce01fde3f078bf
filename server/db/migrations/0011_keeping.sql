CREATE INDEX "authority_case" ON "authority" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "command_at" ON "command" USING btree ("at");--> statement-breakpoint
CREATE INDEX "measurement_ladder" ON "measurement" USING btree ((("raw" -> 'ladder') ->> 'id'));--> statement-breakpoint
DROP TRIGGER command_append_only ON command;
--> statement-breakpoint
CREATE TRIGGER command_never_changed BEFORE UPDATE ON command FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
