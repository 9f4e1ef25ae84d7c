CREATE TABLE "failure_record" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"part" text NOT NULL,
	"revision" integer NOT NULL,
	"typed" jsonb NOT NULL,
	"values" jsonb NOT NULL,
	"verdict" text NOT NULL,
	"reason" text NOT NULL,
	"result" jsonb NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "failure_record_revision" UNIQUE("job_id","part","revision"),
	CONSTRAINT "failure_record_verdict" CHECK (verdict in ('pass','attention','fail','cannot judge'))
);
--> statement-breakpoint
ALTER TABLE "failure_record" ADD CONSTRAINT "failure_record_part_of" FOREIGN KEY ("job_id","part") REFERENCES "public"."part"("job_id","kind") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER failure_record_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON failure_record FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
