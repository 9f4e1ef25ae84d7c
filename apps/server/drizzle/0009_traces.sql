CREATE TABLE "trace" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid,
	"part" text,
	"what" text NOT NULL,
	"channels" jsonb NOT NULL,
	"x_unit" text NOT NULL,
	"start_at" timestamp with time zone,
	"source" text NOT NULL,
	"source_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone,
	CONSTRAINT "trace_source" CHECK ("trace"."source" in ('file','instrument','by hand')),
	CONSTRAINT "trace_x_unit" CHECK ("trace"."x_unit" in ('min','s'))
);
--> statement-breakpoint
CREATE TABLE "trace_chunk" (
	"trace_id" uuid NOT NULL,
	"first" integer NOT NULL,
	"count" integer NOT NULL,
	"x_from" double precision NOT NULL,
	"x_to" double precision NOT NULL,
	"packed" "bytea" NOT NULL,
	"overview" "bytea" NOT NULL,
	CONSTRAINT "trace_chunk_key" PRIMARY KEY("trace_id","first"),
	CONSTRAINT "trace_chunk_count" CHECK ("trace_chunk"."count" between 1 and 4096)
);
--> statement-breakpoint
ALTER TABLE "cure_run" ADD COLUMN "trace_id" uuid;--> statement-breakpoint
ALTER TABLE "trace" ADD CONSTRAINT "trace_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trace_chunk" ADD CONSTRAINT "trace_chunk_trace" FOREIGN KEY ("trace_id") REFERENCES "public"."trace"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "trace_job_index" ON "trace" USING btree ("job_id");--> statement-breakpoint
ALTER TABLE "cure_run" ADD CONSTRAINT "cure_run_trace" FOREIGN KEY ("trace_id") REFERENCES "public"."trace"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
CREATE TRIGGER trace_chunk_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON trace_chunk FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER trace_is_not_deleted BEFORE DELETE OR TRUNCATE ON trace FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER trace_is_kept BEFORE UPDATE ON trace FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
