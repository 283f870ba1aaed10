CREATE TABLE "photo_bytes" (
	"sum" text PRIMARY KEY NOT NULL,
	"bytes" "bytea" NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "photo_holds" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"until" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "staged_rows" (
	"restore" uuid NOT NULL,
	"part" text NOT NULL,
	"place" integer NOT NULL,
	"key" text NOT NULL,
	"row" jsonb NOT NULL,
	"staged_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "staged_rows_restore_part_place_pk" PRIMARY KEY("restore","part","place")
);
--> statement-breakpoint
CREATE INDEX "staged_rows_key" ON "staged_rows" USING btree ("restore","part","key");
--> statement-breakpoint
ALTER TABLE "members" ADD COLUMN "passphrase" text;
--> statement-breakpoint
ALTER TABLE "photos" ADD COLUMN "sum" text;
--> statement-breakpoint
UPDATE "photos" SET "sum" = encode(sha256("bytes"), 'hex');
--> statement-breakpoint
-- Photographs are packed already: packing them again only takes time.
ALTER TABLE "photo_bytes" ALTER COLUMN "bytes" SET STORAGE EXTERNAL;
--> statement-breakpoint
INSERT INTO "photo_bytes" ("sum", "bytes") SELECT DISTINCT ON ("sum") "sum", "bytes" FROM "photos";
--> statement-breakpoint
ALTER TABLE "photos" ALTER COLUMN "sum" SET NOT NULL;
--> statement-breakpoint
ALTER TABLE "photos" DROP COLUMN "bytes";
--> statement-breakpoint
ALTER TABLE "photos" ADD CONSTRAINT "photos_sum_photo_bytes_sum_fk" FOREIGN KEY ("sum") REFERENCES "public"."photo_bytes"("sum") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "photos_sum" ON "photos" USING btree ("sum");
--> statement-breakpoint
INSERT INTO "row_counts" SELECT 'photo_bytes', count(*) FROM "photo_bytes";
--> statement-breakpoint
CREATE TRIGGER photo_bytes_added AFTER INSERT ON "photo_bytes" REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER photo_bytes_removed AFTER DELETE ON "photo_bytes" REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE OR REPLACE FUNCTION tell_change() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
	changed jsonb;
BEGIN
	-- A restore changes thousands of rows and reports them all with one notification at its end.
	IF current_setting('upwind.quiet', true) = 'on' THEN
		RETURN NULL;
	END IF;
	changed := to_jsonb(CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END);
	PERFORM pg_notify('upwind_changes', jsonb_build_object('table', TG_TABLE_NAME, 'id', changed->'id', 'revision', changed->'revision', 'cutter', changed->'cutter_id', 'gone', TG_OP = 'DELETE', 'by', changed->'changed_by')::text);
	RETURN NULL;
END $$;
