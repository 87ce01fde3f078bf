CREATE TABLE "ability" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"key_tag" text NOT NULL,
	"ability" text NOT NULL,
	"result" text NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "audit" (
	"id" serial PRIMARY KEY NOT NULL,
	"at" bigint NOT NULL,
	"by" text NOT NULL,
	"action" text NOT NULL,
	"case_id" integer,
	"detail" json NOT NULL
);
--> statement-breakpoint
CREATE TABLE "authority" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"kind" text NOT NULL,
	"note" text NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "bay" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"position" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "case_file" (
	"id" serial PRIMARY KEY NOT NULL,
	"domain" text NOT NULL,
	"state" text NOT NULL,
	"bay_id" text,
	"customer_id" integer,
	"vehicle" text NOT NULL,
	"year" integer,
	"identification" text NOT NULL,
	"plate" text NOT NULL,
	"words" text NOT NULL,
	"changed" json NOT NULL,
	"symptoms" json NOT NULL,
	"family_id" text NOT NULL,
	"family_version" integer NOT NULL,
	"family_hash" text NOT NULL,
	"profile_id" text,
	"profile_version" integer,
	"profile_hash" text,
	"opened_at" bigint NOT NULL,
	"opened_by" text NOT NULL,
	"closed_at" bigint,
	"closed_by" text,
	"outcome" text
);
--> statement-breakpoint
CREATE TABLE "case_key" (
	"case_id" integer NOT NULL,
	"tag" text NOT NULL,
	"role" text NOT NULL,
	"note" text NOT NULL,
	"present" boolean NOT NULL,
	CONSTRAINT "case_key_case_id_tag_pk" PRIMARY KEY("case_id","tag")
);
--> statement-breakpoint
CREATE TABLE "clock_domain" (
	"id" text PRIMARY KEY NOT NULL,
	"rate" double precision NOT NULL,
	"anchor_clock" bigint NOT NULL,
	"anchor_wall" bigint NOT NULL,
	"boot_id" text,
	"anchor_uptime" bigint,
	"wall_since" bigint
);
--> statement-breakpoint
CREATE TABLE "command" (
	"id" text PRIMARY KEY NOT NULL,
	"hash" text NOT NULL,
	"answer" json NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "customer" (
	"id" serial PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"phone" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "document" (
	"kind" text NOT NULL,
	"id" text NOT NULL,
	"version" integer NOT NULL,
	"hash" text NOT NULL,
	"origin" text NOT NULL,
	"body" json NOT NULL,
	"entered_at" bigint NOT NULL,
	CONSTRAINT "document_kind_id_version_pk" PRIMARY KEY("kind","id","version")
);
--> statement-breakpoint
CREATE TABLE "evidence" (
	"id" text PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"seq" integer NOT NULL,
	"test" text NOT NULL,
	"outcome" text,
	"key_tag" text,
	"note" text NOT NULL,
	"replaces" text,
	"run_id" integer,
	"event_id" text,
	"family_hash" text NOT NULL,
	"by" text NOT NULL,
	"occurred_at" bigint NOT NULL,
	"received_at" bigint NOT NULL,
	CONSTRAINT "evidence_case_seq" UNIQUE("case_id","seq")
);
--> statement-breakpoint
CREATE TABLE "person" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"initials" text NOT NULL,
	"roles" json NOT NULL
);
--> statement-breakpoint
CREATE TABLE "run" (
	"id" serial PRIMARY KEY NOT NULL,
	"case_id" integer NOT NULL,
	"procedure_id" text NOT NULL,
	"procedure_version" integer NOT NULL,
	"procedure_hash" text NOT NULL,
	"params" json NOT NULL,
	"status" text NOT NULL,
	"started_at" bigint NOT NULL,
	"ended_at" bigint
);
--> statement-breakpoint
CREATE TABLE "run_event" (
	"run_id" integer NOT NULL,
	"seq" integer NOT NULL,
	"id" text NOT NULL,
	"event" json NOT NULL,
	CONSTRAINT "run_event_run_id_seq_pk" PRIMARY KEY("run_id","seq"),
	CONSTRAINT "run_event_id_unique" UNIQUE("id")
);
--> statement-breakpoint
ALTER TABLE "ability" ADD CONSTRAINT "ability_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "ability" ADD CONSTRAINT "ability_case_id_key_tag_case_key_case_id_tag_fk" FOREIGN KEY ("case_id","key_tag") REFERENCES "public"."case_key"("case_id","tag") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "audit" ADD CONSTRAINT "audit_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "authority" ADD CONSTRAINT "authority_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "authority" ADD CONSTRAINT "authority_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "case_file" ADD CONSTRAINT "case_file_domain_clock_domain_id_fk" FOREIGN KEY ("domain") REFERENCES "public"."clock_domain"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "case_file" ADD CONSTRAINT "case_file_bay_id_bay_id_fk" FOREIGN KEY ("bay_id") REFERENCES "public"."bay"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "case_file" ADD CONSTRAINT "case_file_customer_id_customer_id_fk" FOREIGN KEY ("customer_id") REFERENCES "public"."customer"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "case_file" ADD CONSTRAINT "case_file_opened_by_person_id_fk" FOREIGN KEY ("opened_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "case_file" ADD CONSTRAINT "case_file_closed_by_person_id_fk" FOREIGN KEY ("closed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "case_key" ADD CONSTRAINT "case_key_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_run_id_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "evidence" ADD CONSTRAINT "evidence_replaces_evidence_id_fk" FOREIGN KEY ("replaces") REFERENCES "public"."evidence"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run" ADD CONSTRAINT "run_case_id_case_file_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."case_file"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_event" ADD CONSTRAINT "run_event_run_id_run_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "ability_case" ON "ability" USING btree ("case_id");--> statement-breakpoint
CREATE INDEX "case_file_state" ON "case_file" USING btree ("state","id");--> statement-breakpoint
CREATE INDEX "run_status" ON "run" USING btree ("status");--> statement-breakpoint
CREATE INDEX "run_case" ON "run" USING btree ("case_id");