CREATE TABLE "rigs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"format_version" integer NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone,
	"rig" jsonb NOT NULL
);
--> statement-breakpoint
CREATE INDEX "rigs_updated_at" ON "rigs" USING btree ("updated_at");--> statement-breakpoint
INSERT INTO "row_counts" VALUES ('rigs', 0);
--> statement-breakpoint
CREATE TRIGGER rigs_added AFTER INSERT ON "rigs" REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER rigs_removed AFTER DELETE ON "rigs" REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
