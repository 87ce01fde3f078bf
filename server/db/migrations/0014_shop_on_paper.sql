CREATE TABLE "shop_picture" (
	"id" text PRIMARY KEY NOT NULL,
	"type" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"data" "bytea" NOT NULL
);
--> statement-breakpoint
ALTER TABLE "shop" ADD COLUMN "address" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "shop" ADD COLUMN "phone" text DEFAULT '' NOT NULL;