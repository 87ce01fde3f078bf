ALTER TABLE "case_file" ADD COLUMN "promised_at" bigint;--> statement-breakpoint
ALTER TABLE "shop" ADD COLUMN "technicians" integer DEFAULT 1 NOT NULL;