CREATE TABLE "call" (
	"id" serial PRIMARY KEY NOT NULL,
	"customer_id" integer,
	"vehicle" text NOT NULL,
	"plate" text NOT NULL,
	"words" text NOT NULL,
	"system" text NOT NULL,
	"answers" json NOT NULL,
	"film" json,
	"told" json NOT NULL,
	"case_id" integer,
	"by" text NOT NULL,
	"at" bigint NOT NULL,
	"changed_at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "lamp_look" (
	"id" text PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"key_tag" text,
	"moment" text NOT NULL,
	"origin" text NOT NULL,
	"file" text NOT NULL,
	"lit" json NOT NULL,
	"lit_at_end" boolean NOT NULL,
	"length_s" double precision NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "lamp_reading" (
	"id" serial PRIMARY KEY NOT NULL,
	"look_id" text NOT NULL,
	"family" json NOT NULL,
	"state" text NOT NULL,
	"pattern" text NOT NULL,
	"p" double precision,
	"verdict" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "evidence" ADD COLUMN "look_id" text;--> statement-breakpoint
ALTER TABLE "call" ADD CONSTRAINT "call_customer_id_customer_id_fk" FOREIGN KEY ("customer_id") REFERENCES "public"."customer"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "call" ADD CONSTRAINT "call_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "call" ADD CONSTRAINT "call_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lamp_look" ADD CONSTRAINT "lamp_look_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lamp_look" ADD CONSTRAINT "lamp_look_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lamp_reading" ADD CONSTRAINT "lamp_reading_look_id_lamp_look_id_fk" FOREIGN KEY ("look_id") REFERENCES "public"."lamp_look"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "lamp_look_case" ON "lamp_look" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "lamp_reading_look" ON "lamp_reading" USING btree ("look_id");--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_look_id_lamp_look_id_fk" FOREIGN KEY ("look_id") REFERENCES "public"."lamp_look"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER lamp_look_append_only BEFORE UPDATE OR DELETE ON lamp_look FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER lamp_reading_append_only BEFORE UPDATE OR DELETE ON lamp_reading FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
