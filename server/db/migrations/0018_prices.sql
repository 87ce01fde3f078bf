CREATE TABLE "price_book" (
	"version" serial PRIMARY KEY NOT NULL,
	"from" bigint NOT NULL,
	"book" json NOT NULL,
	"by" text NOT NULL,
	"at" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "price_book" ADD CONSTRAINT "price_book_by_person_id_fk" FOREIGN KEY ("by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER price_book_append_only BEFORE UPDATE OR DELETE ON price_book FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
