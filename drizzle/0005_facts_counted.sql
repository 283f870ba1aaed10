INSERT INTO "row_counts" SELECT 'workshop', count(*) FROM "workshop";
--> statement-breakpoint
CREATE TRIGGER workshop_added AFTER INSERT ON "workshop" REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
--> statement-breakpoint
CREATE TRIGGER workshop_removed AFTER DELETE ON "workshop" REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION count_kept_rows();
