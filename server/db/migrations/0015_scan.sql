CREATE TABLE "scan" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"phase" text NOT NULL,
	"found" json NOT NULL,
	"cleared" boolean NOT NULL,
	"note" text NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "scan" ADD CONSTRAINT "scan_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scan" ADD CONSTRAINT "scan_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "scan_case" ON "scan" USING btree ("case_id");--> statement-breakpoint
CREATE TRIGGER scan_append_only BEFORE UPDATE OR DELETE ON scan FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
