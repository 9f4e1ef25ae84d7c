CREATE TABLE "test_trace" (
	"test_id" uuid NOT NULL,
	"ordinal" integer NOT NULL,
	"trace_id" uuid NOT NULL,
	CONSTRAINT "test_trace_key" PRIMARY KEY("test_id","ordinal")
);
--> statement-breakpoint
ALTER TABLE "test_run" ADD COLUMN "override" jsonb;--> statement-breakpoint
ALTER TABLE "test_run" ADD COLUMN "lesser" text;--> statement-breakpoint
ALTER TABLE "test_trace" ADD CONSTRAINT "test_trace_test" FOREIGN KEY ("test_id") REFERENCES "public"."test_run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_trace" ADD CONSTRAINT "test_trace_trace" FOREIGN KEY ("trace_id") REFERENCES "public"."trace"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "test_trace_of" ON "test_trace" USING btree ("trace_id");--> statement-breakpoint
CREATE TRIGGER test_trace_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON test_trace FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
