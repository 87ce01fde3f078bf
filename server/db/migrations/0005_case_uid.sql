ALTER TABLE "case_file" ADD COLUMN "uid" text DEFAULT gen_random_uuid()::text NOT NULL;--> statement-breakpoint
ALTER TABLE "case_file" ADD CONSTRAINT "case_file_uid_unique" UNIQUE("uid");