CREATE TABLE "done_once" (
	"name" text PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "measurement" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"source" text NOT NULL,
	"source_id" uuid NOT NULL,
	"what" text NOT NULL,
	"value" double precision NOT NULL,
	"unit" text NOT NULL,
	"bound" text,
	"typed" text,
	"stage" text,
	"part" text,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"person_name" text,
	"verdict" text,
	CONSTRAINT "measurement_once" UNIQUE("source_id","what"),
	CONSTRAINT "measurement_source" CHECK ("measurement"."source" in ('test','step','balance')),
	CONSTRAINT "measurement_bound" CHECK ("measurement"."bound" is null or "measurement"."bound" in ('above','below')),
	CONSTRAINT "measurement_verdict" CHECK ("measurement"."verdict" is null or verdict in ('pass','attention','fail','cannot judge'))
);
--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "family" text;--> statement-breakpoint
ALTER TABLE "measurement" ADD CONSTRAINT "measurement_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "measurement_job_what" ON "measurement" USING btree ("job_id","what","at" DESC NULLS LAST);--> statement-breakpoint
CREATE INDEX "job_closed" ON "job" USING btree ("closed_at" DESC NULLS LAST,"taken_in_at") WHERE closed_at is not null;--> statement-breakpoint
CREATE INDEX "job_family" ON "job" USING btree ("family","taken_in_at" DESC NULLS LAST);--> statement-breakpoint
-- what was measured is only ever added
CREATE TRIGGER measurement_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON measurement FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE EXTENSION IF NOT EXISTS pg_trgm;
--> statement-breakpoint
-- one search from anywhere: the words of a job in one text, found by their parts
CREATE INDEX job_search ON job USING gin ((number || E'\n' || what || E'\n' || coalesce(nameplate->>'serial', '') || E'\n' || coalesce(nameplate->>'manufacturer', '') || E'\n' || coalesce(nameplate->>'typeMark', '')) gin_trgm_ops);
--> statement-breakpoint
CREATE INDEX customer_search ON customer USING gin (name gin_trgm_ops);
