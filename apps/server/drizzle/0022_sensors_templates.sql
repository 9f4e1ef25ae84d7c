CREATE TABLE "route_template" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"route" text NOT NULL,
	"came" text NOT NULL,
	"impregnation" text NOT NULL,
	"graph" jsonb NOT NULL,
	"from_job" text NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"retired" jsonb
);
--> statement-breakpoint
CREATE TABLE "fitted_sensor" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"part" text NOT NULL,
	"typed" jsonb NOT NULL,
	"values" jsonb NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"removed" jsonb
);
--> statement-breakpoint
CREATE TABLE "sensor_reading" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"sensor_id" uuid NOT NULL,
	"stage" text NOT NULL,
	"typed" jsonb NOT NULL,
	"values" jsonb NOT NULL,
	"limits" jsonb NOT NULL,
	"verdict" text NOT NULL,
	"reason" text NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "sensor_reading_verdict" CHECK (verdict in ('pass','attention','fail','cannot judge')),
	CONSTRAINT "sensor_reading_stage" CHECK ("sensor_reading"."stage" in ('fitted','AC','VC','AA'))
);
--> statement-breakpoint
ALTER TABLE "fitted_sensor" ADD CONSTRAINT "fitted_sensor_part_of" FOREIGN KEY ("job_id","part") REFERENCES "public"."part"("job_id","kind") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sensor_reading" ADD CONSTRAINT "sensor_reading_sensor" FOREIGN KEY ("sensor_id") REFERENCES "public"."fitted_sensor"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "route_template_name" ON "route_template" USING btree (lower("name")) WHERE retired is null;--> statement-breakpoint
CREATE INDEX "fitted_sensor_job_index" ON "fitted_sensor" USING btree ("job_id");--> statement-breakpoint
CREATE INDEX "sensor_reading_of" ON "sensor_reading" USING btree ("sensor_id","at");--> statement-breakpoint
CREATE TRIGGER fitted_sensor_is_not_deleted BEFORE DELETE OR TRUNCATE ON fitted_sensor FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER fitted_sensor_is_kept BEFORE UPDATE ON fitted_sensor FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
--> statement-breakpoint
CREATE TRIGGER sensor_reading_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON sensor_reading FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER route_template_is_not_deleted BEFORE DELETE OR TRUNCATE ON route_template FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER route_template_is_kept BEFORE UPDATE ON route_template FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
