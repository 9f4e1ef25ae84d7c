CREATE TABLE "attachment" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"name" text NOT NULL,
	"media_type" text NOT NULL,
	"bytes" integer NOT NULL,
	"content" "bytea" NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "attachment_size" CHECK ("attachment"."bytes" between 1 and 15728640)
);
--> statement-breakpoint
CREATE TABLE "audit_event" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"person_id" uuid,
	"person_name" text NOT NULL,
	"action" text NOT NULL,
	"job_id" uuid,
	"summary" text NOT NULL,
	"before" jsonb,
	"after" jsonb
);
--> statement-breakpoint
CREATE TABLE "balance_run" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"typed" jsonb NOT NULL,
	"values" jsonb NOT NULL,
	"limits" jsonb NOT NULL,
	"calculation" text NOT NULL,
	"calculation_version" integer NOT NULL,
	"verdict" text NOT NULL,
	"reason" text NOT NULL,
	"result" jsonb NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "balance_run_verdict" CHECK (verdict in ('pass','attention','fail','cannot judge'))
);
--> statement-breakpoint
CREATE TABLE "cure_run" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"file_name" text NOT NULL,
	"resin" jsonb NOT NULL,
	"limits" jsonb NOT NULL,
	"times_min" double precision[] NOT NULL,
	"channels" jsonb NOT NULL,
	"bad_rows" jsonb NOT NULL,
	"calculation" text NOT NULL,
	"calculation_version" integer NOT NULL,
	"verdict" text NOT NULL,
	"reason" text NOT NULL,
	"result" jsonb NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "cure_run_verdict" CHECK (verdict in ('pass','attention','fail','cannot judge'))
);
--> statement-breakpoint
CREATE TABLE "customer" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "device_person" (
	"device_hash" text NOT NULL,
	"person_id" uuid NOT NULL,
	"signed_in_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "device_person_key" PRIMARY KEY("device_hash","person_id")
);
--> statement-breakpoint
CREATE TABLE "draft" (
	"person_id" uuid NOT NULL,
	"key" text NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "draft_key" PRIMARY KEY("person_id","key")
);
--> statement-breakpoint
CREATE TABLE "idempotency_key" (
	"person_id" uuid NOT NULL,
	"key" text NOT NULL,
	"fingerprint" text NOT NULL,
	"response" jsonb,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "idempotency_key_key" PRIMARY KEY("person_id","key")
);
--> statement-breakpoint
CREATE TABLE "job" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" text NOT NULL,
	"motor_id" uuid NOT NULL,
	"what" text NOT NULL,
	"came" text NOT NULL,
	"quantity" integer DEFAULT 1 NOT NULL,
	"intake" jsonb NOT NULL,
	"route" text NOT NULL,
	"impregnation" text NOT NULL,
	"priority" text NOT NULL,
	"promised" date,
	"taken_in_at" timestamp with time zone DEFAULT now() NOT NULL,
	"closed_at" timestamp with time zone,
	"imported_from" text,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "job_number_unique" UNIQUE("number"),
	CONSTRAINT "job_came_known" CHECK ("job"."came" in ('whole motor','stator only','rotor only')),
	CONSTRAINT "job_quantity" CHECK ("job"."quantity" between 1 and 500)
);
--> statement-breakpoint
CREATE TABLE "job_counter" (
	"year" integer PRIMARY KEY NOT NULL,
	"last" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "motor" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"customer_id" uuid NOT NULL,
	"serial" text,
	"nameplate_typed" jsonb NOT NULL,
	"nameplate" jsonb NOT NULL,
	"read_with" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "person" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"sign_in" text NOT NULL,
	"role" text NOT NULL,
	"password_hash" text,
	"pin_hash" text,
	"active" boolean DEFAULT true NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "person_sign_in_unique" UNIQUE("sign_in"),
	CONSTRAINT "person_role_known" CHECK ("person"."role" in ('viewer','winder','tester','foreman','admin'))
);
--> statement-breakpoint
CREATE TABLE "report" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"content" "bytea" NOT NULL,
	"sha256" text NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "report_revision" UNIQUE("job_id","revision")
);
--> statement-breakpoint
CREATE TABLE "route_step" (
	"job_id" uuid NOT NULL,
	"code" text NOT NULL,
	"state" text DEFAULT 'open' NOT NULL,
	"changed_at" timestamp with time zone,
	"waived" jsonb,
	"notes" jsonb DEFAULT '[]'::jsonb NOT NULL,
	CONSTRAINT "route_step_key" PRIMARY KEY("job_id","code"),
	CONSTRAINT "route_step_state" CHECK ("route_step"."state" in ('open','running','passed','attention','undecided','failed','waived','recheck'))
);
--> statement-breakpoint
CREATE TABLE "session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"device_hash" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shop" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"settings" jsonb NOT NULL,
	"demo" boolean DEFAULT false NOT NULL,
	CONSTRAINT "shop_is_one" CHECK ("shop"."id" = 1)
);
--> statement-breakpoint
CREATE TABLE "sign_in_failure" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "step_attempt" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"code" text NOT NULL,
	"number" integer NOT NULL,
	"started_by" text NOT NULL,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL,
	"override" text,
	"finished_by" text,
	"finished_at" timestamp with time zone,
	"typed" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"values" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"verdict" text,
	"reason" text DEFAULT '' NOT NULL,
	"signed" jsonb,
	CONSTRAINT "step_attempt_number" UNIQUE("job_id","code","number"),
	CONSTRAINT "step_attempt_verdict" CHECK ("step_attempt"."verdict" is null or verdict in ('pass','attention','fail','cannot judge'))
);
--> statement-breakpoint
CREATE TABLE "test_run" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"stage" text NOT NULL,
	"kind" text NOT NULL,
	"typed" jsonb NOT NULL,
	"values" jsonb NOT NULL,
	"calculation" text,
	"calculation_version" integer,
	"limits" jsonb NOT NULL,
	"verdict" text NOT NULL,
	"reason" text NOT NULL,
	"result" jsonb,
	"person_name" text NOT NULL,
	"taken_at" timestamp with time zone DEFAULT now() NOT NULL,
	"supersedes" uuid,
	"correction_reason" text,
	"signed" jsonb,
	CONSTRAINT "test_run_superseded_once" UNIQUE("supersedes"),
	CONSTRAINT "test_run_verdict" CHECK (verdict in ('pass','attention','fail','cannot judge')),
	CONSTRAINT "test_run_correction" CHECK ("test_run"."supersedes" is null or "test_run"."correction_reason" is not null),
	CONSTRAINT "test_run_stage" CHECK ("test_run"."stage" in ('IN','BS','AB','AC','VC','AA','FI'))
);
--> statement-breakpoint
CREATE TABLE "winding_record" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"role" text NOT NULL,
	"revision" integer NOT NULL,
	"typed" jsonb NOT NULL,
	"record" jsonb NOT NULL,
	"read_with" jsonb NOT NULL,
	"reason" text,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"released" jsonb,
	CONSTRAINT "winding_record_revision" UNIQUE("job_id","role","revision"),
	CONSTRAINT "winding_record_role" CHECK ("winding_record"."role" in ('as_found','planned'))
);
--> statement-breakpoint
ALTER TABLE "attachment" ADD CONSTRAINT "attachment_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "balance_run" ADD CONSTRAINT "balance_run_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cure_run" ADD CONSTRAINT "cure_run_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "device_person" ADD CONSTRAINT "device_person_person" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "draft" ADD CONSTRAINT "draft_person" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_motor" FOREIGN KEY ("motor_id") REFERENCES "public"."motor"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "motor" ADD CONSTRAINT "motor_customer" FOREIGN KEY ("customer_id") REFERENCES "public"."customer"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "report" ADD CONSTRAINT "report_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "route_step" ADD CONSTRAINT "route_step_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_person" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_attempt" ADD CONSTRAINT "step_attempt_step" FOREIGN KEY ("job_id","code") REFERENCES "public"."route_step"("job_id","code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run" ADD CONSTRAINT "test_run_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run" ADD CONSTRAINT "test_run_supersedes" FOREIGN KEY ("supersedes") REFERENCES "public"."test_run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "winding_record" ADD CONSTRAINT "winding_record_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "attachment_job_index" ON "attachment" USING btree ("job_id");--> statement-breakpoint
CREATE INDEX "audit_event_job" ON "audit_event" USING btree ("job_id","id");--> statement-breakpoint
CREATE INDEX "balance_run_job_index" ON "balance_run" USING btree ("job_id");--> statement-breakpoint
CREATE INDEX "cure_run_job_index" ON "cure_run" USING btree ("job_id");--> statement-breakpoint
CREATE UNIQUE INDEX "customer_name_unique" ON "customer" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "job_motor_index" ON "job" USING btree ("motor_id");--> statement-breakpoint
CREATE INDEX "job_open" ON "job" USING btree ("taken_in_at") WHERE closed_at is null;--> statement-breakpoint
CREATE INDEX "motor_serial" ON "motor" USING btree (lower("serial"));--> statement-breakpoint
CREATE INDEX "motor_customer_index" ON "motor" USING btree ("customer_id");--> statement-breakpoint
CREATE INDEX "session_device" ON "session" USING btree ("device_hash");--> statement-breakpoint
CREATE INDEX "sign_in_failure_key_at" ON "sign_in_failure" USING btree ("key","at");--> statement-breakpoint
CREATE INDEX "test_run_job_index" ON "test_run" USING btree ("job_id");