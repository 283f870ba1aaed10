CREATE TABLE "plans" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"format_version" integer NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	"plan" jsonb NOT NULL
);
--> statement-breakpoint
CREATE INDEX "plans_updated_at" ON "plans" USING btree ("updated_at");--> statement-breakpoint
INSERT INTO "row_counts" VALUES ('plans', 0);
--> statement-breakpoint
CREATE TRIGGER plans_added AFTER INSERT ON "plans" REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER plans_removed AFTER DELETE ON "plans" REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
