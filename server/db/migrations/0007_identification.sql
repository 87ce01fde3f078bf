CREATE TABLE "identification" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"seen" json NOT NULL,
	"family" json NOT NULL,
	"profile" json,
	"carried" json NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "identification" ADD CONSTRAINT "identification_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "identification" ADD CONSTRAINT "identification_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "identification_case" ON "identification" USING btree ("case_id");--> statement-breakpoint
CREATE TRIGGER identification_append_only BEFORE UPDATE OR DELETE ON identification FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
