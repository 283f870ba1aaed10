ALTER TABLE "cutters" RENAME COLUMN "design" TO "document";
--> statement-breakpoint
ALTER TABLE "plans" RENAME COLUMN "plan" TO "document";
--> statement-breakpoint
ALTER TABLE "rigs" RENAME COLUMN "rig" TO "document";
--> statement-breakpoint
DELETE FROM "staged_rows";
