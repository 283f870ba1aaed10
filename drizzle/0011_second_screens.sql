CREATE TABLE "second_screens" (
	"id" text PRIMARY KEY NOT NULL,
	"about" jsonb NOT NULL,
	"state" jsonb NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE FUNCTION tell_second() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	PERFORM pg_notify('upwind_changes', jsonb_build_object('table', TG_TABLE_NAME, 'id', NEW.id, 'revision', NEW.revision)::text);
	RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER second_screens_told AFTER INSERT OR UPDATE ON "second_screens" FOR EACH ROW EXECUTE FUNCTION tell_second();
