CREATE TABLE "load_run" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"stage" text NOT NULL,
	"instrument_id" uuid,
	"source_name" text NOT NULL,
	"trace_id" uuid,
	"settings" jsonb NOT NULL,
	"guard" jsonb NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone,
	"why" text,
	CONSTRAINT "load_run_ended" CHECK (("load_run"."ended_at" is null) = ("load_run"."why" is null))
);
--> statement-breakpoint
ALTER TABLE "load_run" ADD CONSTRAINT "load_run_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "load_run" ADD CONSTRAINT "load_run_instrument" FOREIGN KEY ("instrument_id") REFERENCES "public"."instrument"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "load_run" ADD CONSTRAINT "load_run_trace" FOREIGN KEY ("trace_id") REFERENCES "public"."trace"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "load_run_of" ON "load_run" USING btree ("job_id");--> statement-breakpoint
CREATE UNIQUE INDEX "load_run_on" ON "load_run" USING btree ("instrument_id") WHERE "load_run"."ended_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "load_run_open" ON "load_run" USING btree ("job_id") WHERE "load_run"."ended_at" is null;--> statement-breakpoint
CREATE FUNCTION load_run_keeps() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF OLD.ended_at IS NOT NULL THEN
    RAISE EXCEPTION 'load run % is kept as written', OLD.id USING ERRCODE = 'restrict_violation';
  END IF;
  -- while it goes on its guard remembers, its trace is found once, and it ends
  IF (to_jsonb(OLD) - 'guard' - 'ended_at' - 'why' - 'trace_id') IS DISTINCT FROM (to_jsonb(NEW) - 'guard' - 'ended_at' - 'why' - 'trace_id')
     OR (OLD.trace_id IS NOT NULL AND NEW.trace_id IS DISTINCT FROM OLD.trace_id) THEN
    RAISE EXCEPTION 'load run % is kept as written', OLD.id USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER load_run_is_kept BEFORE UPDATE ON load_run FOR EACH ROW EXECUTE FUNCTION load_run_keeps();
--> statement-breakpoint
CREATE TRIGGER load_run_is_not_deleted BEFORE DELETE OR TRUNCATE ON load_run FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
