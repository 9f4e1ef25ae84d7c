CREATE TABLE "oven_log" (
	"load_id" uuid NOT NULL,
	"trace_id" uuid NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "oven_log_key" PRIMARY KEY("load_id","trace_id")
);
--> statement-breakpoint
ALTER TABLE "oven_log" ADD CONSTRAINT "oven_log_load" FOREIGN KEY ("load_id") REFERENCES "public"."oven_load"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "oven_log" ADD CONSTRAINT "oven_log_trace" FOREIGN KEY ("trace_id") REFERENCES "public"."trace"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TRIGGER oven_log_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON oven_log FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
