CREATE TABLE "row_counts" (
	"name" text PRIMARY KEY NOT NULL,
	"rows" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "log_entries" ADD COLUMN "revision" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
CREATE FUNCTION count_kept_rows() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	IF TG_OP = 'INSERT' THEN
		UPDATE row_counts SET rows = rows + (SELECT count(*) FROM changed) WHERE name = TG_TABLE_NAME;
	ELSE
		UPDATE row_counts SET rows = rows - (SELECT count(*) FROM changed) WHERE name = TG_TABLE_NAME;
	END IF;
	RETURN NULL;
END $$;
--> statement-breakpoint
INSERT INTO "row_counts" SELECT 'cutters', count(*) FROM "cutters" UNION ALL SELECT 'drawer_items', count(*) FROM "drawer_items" UNION ALL SELECT 'log_entries', count(*) FROM "log_entries" UNION ALL SELECT 'photos', count(*) FROM "photos";
--> statement-breakpoint
CREATE TRIGGER cutters_added AFTER INSERT ON "cutters" REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER cutters_removed AFTER DELETE ON "cutters" REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER drawer_items_added AFTER INSERT ON "drawer_items" REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER drawer_items_removed AFTER DELETE ON "drawer_items" REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER log_entries_added AFTER INSERT ON "log_entries" REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER log_entries_removed AFTER DELETE ON "log_entries" REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER photos_added AFTER INSERT ON "photos" REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER photos_removed AFTER DELETE ON "photos" REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
