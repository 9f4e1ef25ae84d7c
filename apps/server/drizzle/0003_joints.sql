CREATE TABLE "joint_sheet" (
	"job_id" uuid NOT NULL,
	"part" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"joint_order" text DEFAULT 'jumpers first' NOT NULL,
	"ticks" jsonb NOT NULL,
	"as_made" text DEFAULT '' NOT NULL,
	CONSTRAINT "joint_sheet_key" PRIMARY KEY("job_id","part"),
	CONSTRAINT "joint_sheet_part" CHECK ("joint_sheet"."part" in ('stator','second','rotor'))
);
--> statement-breakpoint
ALTER TABLE "joint_sheet" ADD CONSTRAINT "joint_sheet_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;