CREATE TABLE "retired_document" (
	"kind" text NOT NULL,
	"id" text NOT NULL,
	"at" bigint NOT NULL,
	"by" text NOT NULL,
	CONSTRAINT "retired_document_kind_id_pk" PRIMARY KEY("kind","id")
);
--> statement-breakpoint
ALTER TABLE "document" ADD COLUMN "by" text;--> statement-breakpoint
ALTER TABLE "retired_document" ADD CONSTRAINT "retired_document_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document" ADD CONSTRAINT "document_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;