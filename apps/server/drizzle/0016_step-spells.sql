CREATE TABLE "step_spell" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"attempt_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"person_name" text NOT NULL,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone,
	"ended" text,
	"handed_to" text,
	CONSTRAINT "step_spell_ended" CHECK ("step_spell"."ended" is null or "step_spell"."ended" in ('pause','hand over','finish'))
);
--> statement-breakpoint
ALTER TABLE "attachment" ADD COLUMN "code" text;--> statement-breakpoint
ALTER TABLE "step_spell" ADD CONSTRAINT "step_spell_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_spell" ADD CONSTRAINT "step_spell_attempt" FOREIGN KEY ("attempt_id") REFERENCES "public"."step_attempt"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "step_spell_of_job" ON "step_spell" USING btree ("job_id");--> statement-breakpoint
CREATE UNIQUE INDEX "step_spell_open" ON "step_spell" USING btree ("attempt_id","person_id") WHERE "step_spell"."ended_at" is null;--> statement-breakpoint
CREATE TRIGGER step_spell_is_not_deleted BEFORE DELETE OR TRUNCATE ON step_spell FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER step_spell_is_kept BEFORE UPDATE ON step_spell FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
