CREATE TABLE "access" (
	"key" text PRIMARY KEY NOT NULL,
	"value" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "deeds" (
	"id" serial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"who" text NOT NULL,
	"did" text NOT NULL,
	"on_id" uuid,
	"times" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "members" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"name_key" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "members_name_key_unique" UNIQUE("name_key")
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"member_id" uuid NOT NULL,
	"role" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "cutters" ADD COLUMN "changed_by" text;--> statement-breakpoint
ALTER TABLE "drawer_items" ADD COLUMN "changed_by" text;--> statement-breakpoint
ALTER TABLE "log_entries" ADD COLUMN "changed_by" text;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "changed_by" text;--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "changed_by" text;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_member_id_members_id_fk" FOREIGN KEY ("member_id") REFERENCES "public"."members"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "deeds_at" ON "deeds" USING btree ("at");--> statement-breakpoint
CREATE OR REPLACE FUNCTION tell_change() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
	changed jsonb;
BEGIN
	changed := to_jsonb(CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END);
	PERFORM pg_notify('upwind_changes', jsonb_build_object('table', TG_TABLE_NAME, 'id', changed->'id', 'revision', changed->'revision', 'cutter', changed->'cutter_id', 'gone', TG_OP = 'DELETE', 'by', changed->'changed_by')::text);
	RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION tell_access() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	PERFORM pg_notify('upwind_changes', '{"table":"access"}');
	RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER access_told AFTER INSERT OR UPDATE OR DELETE ON "access" FOR EACH STATEMENT EXECUTE FUNCTION tell_access();
--> statement-breakpoint
CREATE TRIGGER members_told AFTER INSERT OR UPDATE OR DELETE ON "members" FOR EACH STATEMENT EXECUTE FUNCTION tell_access();
--> statement-breakpoint
CREATE TRIGGER sessions_told AFTER INSERT OR UPDATE OR DELETE ON "sessions" FOR EACH STATEMENT EXECUTE FUNCTION tell_access();
