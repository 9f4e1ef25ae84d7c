CREATE TABLE "instrument" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"key_hash" text NOT NULL,
	"calibrated_until" date,
	"may_write" jsonb NOT NULL,
	"simulated" boolean DEFAULT false NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	"last_seen_at" timestamp with time zone,
	"interval_s" double precision,
	"clock_off_s" double precision,
	"version" integer DEFAULT 1 NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "instrument_key" UNIQUE("key_hash")
);
--> statement-breakpoint
CREATE TABLE "instrument_batch" (
	"trace_id" uuid NOT NULL,
	"batch" integer NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	"sent_at" timestamp with time zone NOT NULL,
	CONSTRAINT "instrument_batch_key" PRIMARY KEY("trace_id","batch")
);
--> statement-breakpoint
ALTER TABLE "trace" ADD COLUMN "instrument_id" uuid;--> statement-breakpoint
ALTER TABLE "trace" ADD COLUMN "stream" text;--> statement-breakpoint
ALTER TABLE "instrument_batch" ADD CONSTRAINT "instrument_batch_trace" FOREIGN KEY ("trace_id") REFERENCES "public"."trace"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "instrument_name" ON "instrument" USING btree (lower("name"));--> statement-breakpoint
ALTER TABLE "trace" ADD CONSTRAINT "trace_instrument" FOREIGN KEY ("instrument_id") REFERENCES "public"."instrument"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trace" ADD CONSTRAINT "trace_stream" UNIQUE("instrument_id","stream");