CREATE FUNCTION tell_change() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
	changed jsonb;
BEGIN
	changed := to_jsonb(CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END);
	PERFORM pg_notify('upwind_changes', jsonb_build_object('table', TG_TABLE_NAME, 'id', changed->'id', 'revision', changed->'revision', 'cutter', changed->'cutter_id', 'gone', TG_OP = 'DELETE')::text);
	RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER cutters_told AFTER INSERT OR UPDATE OR DELETE ON "cutters" FOR EACH ROW EXECUTE FUNCTION tell_change();
--> statement-breakpoint
CREATE TRIGGER plans_told AFTER INSERT OR UPDATE OR DELETE ON "plans" FOR EACH ROW EXECUTE FUNCTION tell_change();
--> statement-breakpoint
CREATE TRIGGER rigs_told AFTER INSERT OR UPDATE OR DELETE ON "rigs" FOR EACH ROW EXECUTE FUNCTION tell_change();
--> statement-breakpoint
CREATE TRIGGER drawer_items_told AFTER INSERT OR UPDATE OR DELETE ON "drawer_items" FOR EACH ROW EXECUTE FUNCTION tell_change();
--> statement-breakpoint
CREATE TRIGGER log_entries_told AFTER INSERT OR UPDATE OR DELETE ON "log_entries" FOR EACH ROW EXECUTE FUNCTION tell_change();
