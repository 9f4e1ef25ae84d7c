CREATE TABLE "work" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"kind" text NOT NULL,
	"data" jsonb NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"attempt" integer DEFAULT 0 NOT NULL,
	"worker_id" uuid,
	"heartbeat_at" timestamp with time zone,
	"progress" double precision,
	"cancel_asked" boolean DEFAULT false NOT NULL,
	"job_id" uuid,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"started_at" timestamp with time zone,
	"ended_at" timestamp with time zone,
	"result" jsonb,
	"problem" text,
	CONSTRAINT "work_state" CHECK ("work"."state" in ('waiting','running','done','failed','cancelled'))
);
--> statement-breakpoint
CREATE TABLE "worker" (
	"id" uuid PRIMARY KEY NOT NULL,
	"host" text NOT NULL,
	"pid" integer NOT NULL,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL,
	"heartbeat_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "work" ADD CONSTRAINT "work_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "work_open" ON "work" USING btree ("at") WHERE state in ('waiting','running');--> statement-breakpoint
CREATE INDEX "work_kind" ON "work" USING btree ("kind","at" DESC NULLS LAST);