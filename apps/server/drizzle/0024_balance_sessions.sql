CREATE TABLE "balance_entry" (
	"session_id" uuid NOT NULL,
	"ordinal" integer NOT NULL,
	"entry" jsonb NOT NULL,
	"supersedes" integer,
	"withdrawn" boolean DEFAULT false NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "balance_entry_key" PRIMARY KEY("session_id","ordinal"),
	CONSTRAINT "balance_entry_reason" CHECK ("balance_entry"."supersedes" is null or length("balance_entry"."reason") >= 3)
);
--> statement-breakpoint
CREATE TABLE "balance_session" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"part" text NOT NULL,
	"typed" jsonb NOT NULL,
	"set_up" jsonb NOT NULL,
	"limits" jsonb NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended" jsonb,
	"balance_id" uuid
);
--> statement-breakpoint
ALTER TABLE "balance_entry" ADD CONSTRAINT "balance_entry_session" FOREIGN KEY ("session_id") REFERENCES "public"."balance_session"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "balance_session" ADD CONSTRAINT "balance_session_part_of" FOREIGN KEY ("job_id","part") REFERENCES "public"."part"("job_id","kind") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "balance_session" ADD CONSTRAINT "balance_session_balance" FOREIGN KEY ("balance_id") REFERENCES "public"."balance_run"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "balance_session_job_index" ON "balance_session" USING btree ("job_id");--> statement-breakpoint
CREATE UNIQUE INDEX "balance_session_open" ON "balance_session" USING btree ("job_id","part") WHERE ended is null;--> statement-breakpoint
CREATE TRIGGER balance_session_is_not_deleted BEFORE DELETE OR TRUNCATE ON balance_session FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER balance_session_is_kept BEFORE UPDATE ON balance_session FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
--> statement-breakpoint
CREATE TRIGGER balance_entry_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON balance_entry FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
