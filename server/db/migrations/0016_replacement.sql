CREATE TABLE "replacement" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"entry" json NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "replacement" ADD CONSTRAINT "replacement_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replacement" ADD CONSTRAINT "replacement_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "replacement_case" ON "replacement" USING btree ("case_id");--> statement-breakpoint
CREATE TRIGGER replacement_append_only BEFORE UPDATE OR DELETE ON replacement FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
