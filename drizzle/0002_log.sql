CREATE TABLE "log_entries" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"cutter_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"entry" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "log_entries" ADD CONSTRAINT "log_entries_cutter_id_cutters_id_fk" FOREIGN KEY ("cutter_id") REFERENCES "public"."cutters"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "log_entries_cutter_at" ON "log_entries" USING btree ("cutter_id","at");