ALTER TABLE "drawer_items" ADD COLUMN "format_version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "log_entries" ADD COLUMN "format_version" integer DEFAULT 1 NOT NULL;