CREATE TABLE "backup_rule" (
	"id" text PRIMARY KEY NOT NULL,
	"every_hours" integer NOT NULL,
	"days" integer NOT NULL,
	"weeks" integer NOT NULL,
	"months" integer NOT NULL
);
