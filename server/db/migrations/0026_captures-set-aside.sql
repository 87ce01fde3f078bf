CREATE TABLE "capture_aside" (
	"id" text PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"reason" text NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "capture_aside" ADD CONSTRAINT "capture_aside_id_measurement_id_fk" FOREIGN KEY ("id") REFERENCES "public"."measurement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "capture_aside" ADD CONSTRAINT "capture_aside_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "capture_aside" ADD CONSTRAINT "capture_aside_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "capture_aside_case" ON "capture_aside" USING btree ("case_id");--> statement-breakpoint
CREATE TRIGGER capture_aside_append_only BEFORE UPDATE OR DELETE ON capture_aside FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();