CREATE TABLE "vessel" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"typed" jsonb NOT NULL,
	"set_up" jsonb NOT NULL,
	"tank_id" uuid,
	"instrument_id" uuid,
	"active" boolean DEFAULT true NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "vessel_cycle" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" serial NOT NULL,
	"vessel_id" uuid NOT NULL,
	"set_up" jsonb NOT NULL,
	"part_height_mm" double precision NOT NULL,
	"typed" jsonb NOT NULL,
	"lot" text,
	"trace_id" uuid,
	"trace_from" double precision,
	"begun_by" text NOT NULL,
	"begun_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_by" text,
	"ended_at" timestamp with time zone,
	"figures" jsonb,
	CONSTRAINT "vessel_cycle_number" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "vessel_event" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"cycle_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"stage" text,
	"missing" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"at_min" double precision NOT NULL,
	CONSTRAINT "vessel_event_stage" CHECK (("vessel_event"."kind" = 'stage') = ("vessel_event"."stage" is not null))
);
--> statement-breakpoint
CREATE TABLE "vessel_part" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"cycle_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"code" text NOT NULL,
	CONSTRAINT "vessel_part_once" UNIQUE("cycle_id","job_id")
);
--> statement-breakpoint
CREATE TABLE "vessel_signal" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"cycle_id" uuid NOT NULL,
	"name" text NOT NULL,
	"value" double precision NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"at_min" double precision NOT NULL
);
--> statement-breakpoint
ALTER TABLE "vessel" ADD CONSTRAINT "vessel_tank" FOREIGN KEY ("tank_id") REFERENCES "public"."tank"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vessel" ADD CONSTRAINT "vessel_instrument" FOREIGN KEY ("instrument_id") REFERENCES "public"."instrument"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vessel_cycle" ADD CONSTRAINT "vessel_cycle_vessel" FOREIGN KEY ("vessel_id") REFERENCES "public"."vessel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vessel_cycle" ADD CONSTRAINT "vessel_cycle_trace" FOREIGN KEY ("trace_id") REFERENCES "public"."trace"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vessel_event" ADD CONSTRAINT "vessel_event_cycle" FOREIGN KEY ("cycle_id") REFERENCES "public"."vessel_cycle"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vessel_part" ADD CONSTRAINT "vessel_part_cycle" FOREIGN KEY ("cycle_id") REFERENCES "public"."vessel_cycle"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vessel_part" ADD CONSTRAINT "vessel_part_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vessel_signal" ADD CONSTRAINT "vessel_signal_cycle" FOREIGN KEY ("cycle_id") REFERENCES "public"."vessel_cycle"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "vessel_name" ON "vessel" USING btree (lower("name"));--> statement-breakpoint
CREATE UNIQUE INDEX "vessel_cycle_open" ON "vessel_cycle" USING btree ("vessel_id") WHERE "vessel_cycle"."ended_at" is null;--> statement-breakpoint
CREATE INDEX "vessel_event_of" ON "vessel_event" USING btree ("cycle_id","at");--> statement-breakpoint
CREATE INDEX "vessel_part_of_job" ON "vessel_part" USING btree ("job_id");--> statement-breakpoint
CREATE INDEX "vessel_signal_of" ON "vessel_signal" USING btree ("cycle_id","at");--> statement-breakpoint
CREATE TRIGGER vessel_part_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON vessel_part FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER vessel_event_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON vessel_event FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER vessel_signal_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON vessel_signal FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER vessel_is_not_deleted BEFORE DELETE OR TRUNCATE ON vessel FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER vessel_cycle_is_not_deleted BEFORE DELETE OR TRUNCATE ON vessel_cycle FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER vessel_cycle_is_kept BEFORE UPDATE ON vessel_cycle FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
