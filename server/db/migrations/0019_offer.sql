CREATE TABLE "offer" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"entry" json NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "case_file" ADD COLUMN "came_from" integer;--> statement-breakpoint
ALTER TABLE "offer" ADD CONSTRAINT "offer_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "offer" ADD CONSTRAINT "offer_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "offer_case" ON "offer" USING btree ("case_id");--> statement-breakpoint
ALTER TABLE "case_file" ADD CONSTRAINT "case_file_came_from_case_file_id_fk" FOREIGN KEY ("came_from") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "case_file_came_from" ON "case_file" USING btree ("came_from");
