CREATE TABLE "drawer" (
	"id" text PRIMARY KEY NOT NULL,
	"resistors" json NOT NULL,
	"sense_volts" double precision NOT NULL
);
--> statement-breakpoint
CREATE TABLE "measurement" (
	"id" text PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"key_tag" text,
	"kind" text NOT NULL,
	"raw" json NOT NULL,
	"verdict" text NOT NULL,
	"steps" json,
	"simulated" boolean NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "meter" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"ranges" json NOT NULL,
	"address" text NOT NULL,
	"simulated" boolean DEFAULT false NOT NULL,
	"retired" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "step_try" (
	"id" text PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"ladder" json NOT NULL,
	"step" integer NOT NULL,
	"resistor" text NOT NULL,
	"result" text,
	"replaces" text,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "evidence" ADD COLUMN "measurement_id" text;--> statement-breakpoint
ALTER TABLE "measurement" ADD CONSTRAINT "measurement_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measurement" ADD CONSTRAINT "measurement_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_try" ADD CONSTRAINT "step_try_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_try" ADD CONSTRAINT "step_try_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "measurement_case" ON "measurement" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "step_try_case" ON "step_try" USING btree ("case_id");--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_measurement_id_measurement_id_fk" FOREIGN KEY ("measurement_id") REFERENCES "public"."measurement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER measurement_append_only BEFORE UPDATE OR DELETE ON measurement FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER step_try_append_only BEFORE UPDATE OR DELETE ON step_try FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
