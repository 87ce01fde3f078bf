ALTER TABLE "case_file" ADD COLUMN "conclusion" text;--> statement-breakpoint
ALTER TABLE "case_file" ADD COLUMN "conclusion_fault" text;--> statement-breakpoint
ALTER TABLE "evidence" ADD COLUMN "kind" text DEFAULT 'test' NOT NULL;--> statement-breakpoint
ALTER TABLE "evidence" ADD COLUMN "minutes" double precision;--> statement-breakpoint
ALTER TABLE "identification" ADD COLUMN "proven" json DEFAULT '{}'::json NOT NULL;