ALTER TABLE "case_file" ADD COLUMN "technician_id" text;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "at_work" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "case_file" ADD CONSTRAINT "case_file_technician_id_person_id_fk" FOREIGN KEY ("technician_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;