CREATE TABLE "rotor_family" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"typed" jsonb NOT NULL,
	"set_up" jsonb NOT NULL,
	"influence" jsonb,
	"from_job" text NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"retired" jsonb
);
--> statement-breakpoint
DROP INDEX "balance_session_open";--> statement-breakpoint
ALTER TABLE "balance_session" ADD COLUMN "unit_id" uuid;--> statement-breakpoint
ALTER TABLE "instrument_command" ADD COLUMN "detail" jsonb;--> statement-breakpoint
CREATE UNIQUE INDEX "rotor_family_name" ON "rotor_family" USING btree (lower("name")) WHERE retired is null;--> statement-breakpoint
ALTER TABLE "balance_session" ADD CONSTRAINT "balance_session_unit_of" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "balance_session_open" ON "balance_session" USING btree ("job_id","part",coalesce(unit_id, '00000000-0000-0000-0000-000000000000'::uuid)) WHERE ended is null;--> statement-breakpoint
CREATE TRIGGER rotor_family_is_not_deleted BEFORE DELETE OR TRUNCATE ON rotor_family FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER rotor_family_is_kept BEFORE UPDATE ON rotor_family FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
