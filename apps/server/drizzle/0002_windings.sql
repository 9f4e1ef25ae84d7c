CREATE TABLE "archive_record" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"title" text NOT NULL,
	"nameplate_typed" jsonb NOT NULL,
	"nameplate" jsonb NOT NULL,
	"typed" jsonb NOT NULL,
	"record" jsonb NOT NULL,
	"read_with" jsonb NOT NULL,
	"file_name" text NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "winding_record" DROP CONSTRAINT "winding_record_revision";--> statement-breakpoint
ALTER TABLE "winding_record" ADD COLUMN "part" text DEFAULT 'stator' NOT NULL;--> statement-breakpoint
ALTER TABLE "winding_record" ADD CONSTRAINT "winding_record_revision" UNIQUE("job_id","part","role","revision");--> statement-breakpoint
ALTER TABLE "winding_record" ADD CONSTRAINT "winding_record_part" CHECK ("winding_record"."part" in ('stator','second','rotor'));