CREATE TABLE "chamber" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"uses" jsonb NOT NULL,
	"typed" jsonb NOT NULL,
	"door_width_mm" double precision NOT NULL,
	"door_height_mm" double precision NOT NULL,
	"most_kg" double precision NOT NULL,
	"highest_c" double precision NOT NULL,
	"instrument_id" uuid,
	"active" boolean DEFAULT true NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "chamber_sizes" CHECK ("chamber"."door_width_mm" > 0 and "chamber"."door_height_mm" > 0 and "chamber"."most_kg" > 0)
);
--> statement-breakpoint
CREATE TABLE "oven_event" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"load_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "oven_load" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" serial NOT NULL,
	"chamber_id" uuid NOT NULL,
	"use" text NOT NULL,
	"resin" jsonb,
	"set_point_c" double precision NOT NULL,
	"limits" jsonb NOT NULL,
	"school" text NOT NULL,
	"begun_by" text NOT NULL,
	"begun_at" timestamp with time zone DEFAULT now() NOT NULL,
	"started_by" text,
	"started_at" timestamp with time zone,
	"trace_id" uuid,
	"trace_from" double precision,
	"ended_at" timestamp with time zone,
	"traces_to" jsonb,
	CONSTRAINT "oven_load_number" UNIQUE("number"),
	CONSTRAINT "oven_load_use" CHECK ("oven_load"."use" in ('bake','dry','burn-off')),
	CONSTRAINT "oven_load_resin" CHECK (("oven_load"."use" = 'bake') = ("oven_load"."resin" is not null))
);
--> statement-breakpoint
CREATE TABLE "oven_part" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"load_id" uuid NOT NULL,
	"job_id" uuid NOT NULL,
	"code" text NOT NULL,
	"typed" jsonb NOT NULL,
	"mass_kg" double precision NOT NULL,
	"width_mm" double precision NOT NULL,
	"height_mm" double precision NOT NULL,
	"core_plate" text,
	"in_by" text NOT NULL,
	"in_at" timestamp with time zone DEFAULT now() NOT NULL,
	"out_by" text,
	"out_at" timestamp with time zone,
	"out_reason" text,
	"verdict" text,
	"says" text,
	"figures" jsonb,
	"calculation" text,
	"calculation_version" integer,
	"result" jsonb,
	"trace_id" uuid,
	CONSTRAINT "oven_part_verdict" CHECK ("oven_part"."verdict" is null or verdict in ('pass','attention','fail','cannot judge'))
);
--> statement-breakpoint
CREATE TABLE "oven_probe" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"load_id" uuid NOT NULL,
	"channel" text NOT NULL,
	"role" text NOT NULL,
	"part_id" uuid,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"superseded_at" timestamp with time zone,
	CONSTRAINT "oven_probe_role" CHECK ("oven_probe"."role" in ('part','oven air','not used')),
	CONSTRAINT "oven_probe_on" CHECK ("oven_probe"."role" = 'part' or "oven_probe"."part_id" is null)
);
--> statement-breakpoint
CREATE TABLE "oven_reading" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"load_id" uuid NOT NULL,
	"part_id" uuid NOT NULL,
	"typed" jsonb NOT NULL,
	"c" double precision NOT NULL,
	"read_at" timestamp with time zone NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "wall" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"secret_hash" text NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"revoked_at" timestamp with time zone,
	CONSTRAINT "wall_secret" UNIQUE("secret_hash")
);
--> statement-breakpoint
ALTER TABLE "chamber" ADD CONSTRAINT "chamber_instrument" FOREIGN KEY ("instrument_id") REFERENCES "public"."instrument"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_event" ADD CONSTRAINT "oven_event_load" FOREIGN KEY ("load_id") REFERENCES "public"."oven_load"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_load" ADD CONSTRAINT "oven_load_chamber" FOREIGN KEY ("chamber_id") REFERENCES "public"."chamber"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_load" ADD CONSTRAINT "oven_load_trace" FOREIGN KEY ("trace_id") REFERENCES "public"."trace"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_part" ADD CONSTRAINT "oven_part_load" FOREIGN KEY ("load_id") REFERENCES "public"."oven_load"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_part" ADD CONSTRAINT "oven_part_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_part" ADD CONSTRAINT "oven_part_trace" FOREIGN KEY ("trace_id") REFERENCES "public"."trace"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_probe" ADD CONSTRAINT "oven_probe_load" FOREIGN KEY ("load_id") REFERENCES "public"."oven_load"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_probe" ADD CONSTRAINT "oven_probe_part" FOREIGN KEY ("part_id") REFERENCES "public"."oven_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_reading" ADD CONSTRAINT "oven_reading_load" FOREIGN KEY ("load_id") REFERENCES "public"."oven_load"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_reading" ADD CONSTRAINT "oven_reading_part" FOREIGN KEY ("part_id") REFERENCES "public"."oven_part"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "chamber_name" ON "chamber" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "oven_event_of_load" ON "oven_event" USING btree ("load_id");--> statement-breakpoint
CREATE UNIQUE INDEX "oven_load_open" ON "oven_load" USING btree ("chamber_id") WHERE "oven_load"."ended_at" is null;--> statement-breakpoint
CREATE INDEX "oven_part_of_load" ON "oven_part" USING btree ("load_id");--> statement-breakpoint
CREATE INDEX "oven_part_of_job" ON "oven_part" USING btree ("job_id");--> statement-breakpoint
CREATE UNIQUE INDEX "oven_part_inside" ON "oven_part" USING btree ("job_id") WHERE "oven_part"."out_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "oven_probe_now" ON "oven_probe" USING btree ("load_id","channel") WHERE "oven_probe"."superseded_at" is null;--> statement-breakpoint
CREATE INDEX "oven_reading_of_load" ON "oven_reading" USING btree ("load_id");--> statement-breakpoint
CREATE TRIGGER oven_load_is_not_deleted BEFORE DELETE OR TRUNCATE ON oven_load FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER oven_load_is_kept BEFORE UPDATE ON oven_load FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
--> statement-breakpoint
CREATE TRIGGER oven_part_is_not_deleted BEFORE DELETE OR TRUNCATE ON oven_part FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER oven_part_is_kept BEFORE UPDATE ON oven_part FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
--> statement-breakpoint
CREATE TRIGGER oven_probe_is_not_deleted BEFORE DELETE OR TRUNCATE ON oven_probe FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER oven_probe_is_kept BEFORE UPDATE ON oven_probe FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
--> statement-breakpoint
CREATE TRIGGER wall_is_not_deleted BEFORE DELETE OR TRUNCATE ON wall FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER wall_is_kept BEFORE UPDATE ON wall FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
--> statement-breakpoint
CREATE TRIGGER oven_reading_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON oven_reading FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER oven_event_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON oven_event FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
