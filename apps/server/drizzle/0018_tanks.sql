CREATE TABLE "lot_parent" (
	"lot_id" uuid NOT NULL,
	"parent_id" uuid NOT NULL,
	"quantity" double precision NOT NULL,
	CONSTRAINT "lot_parent_key" PRIMARY KEY("lot_id","parent_id"),
	CONSTRAINT "lot_parent_apart" CHECK ("lot_parent"."lot_id" <> "lot_parent"."parent_id")
);
--> statement-breakpoint
CREATE TABLE "tank" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"resin" text NOT NULL,
	"typed" jsonb NOT NULL,
	"set_up" jsonb NOT NULL,
	"lot_id" uuid,
	"active" boolean DEFAULT true NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tank_test" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"tank_id" uuid NOT NULL,
	"lot_id" uuid,
	"typed" jsonb NOT NULL,
	"values" jsonb NOT NULL,
	"set_up" jsonb NOT NULL,
	"at_reference" double precision NOT NULL,
	"verdict" text NOT NULL,
	"reason" text NOT NULL,
	"day" date NOT NULL,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "tank_test_verdict" CHECK (verdict in ('pass','attention','fail','cannot judge'))
);
--> statement-breakpoint
ALTER TABLE "lot_parent" ADD CONSTRAINT "lot_parent_lot" FOREIGN KEY ("lot_id") REFERENCES "public"."stock_lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lot_parent" ADD CONSTRAINT "lot_parent_parent" FOREIGN KEY ("parent_id") REFERENCES "public"."stock_lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tank" ADD CONSTRAINT "tank_lot" FOREIGN KEY ("lot_id") REFERENCES "public"."stock_lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tank_test" ADD CONSTRAINT "tank_test_tank" FOREIGN KEY ("tank_id") REFERENCES "public"."tank"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tank_test" ADD CONSTRAINT "tank_test_lot" FOREIGN KEY ("lot_id") REFERENCES "public"."stock_lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "lot_parent_of" ON "lot_parent" USING btree ("parent_id");--> statement-breakpoint
CREATE UNIQUE INDEX "tank_name" ON "tank" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "tank_test_of" ON "tank_test" USING btree ("tank_id","at" DESC NULLS LAST);--> statement-breakpoint
CREATE TRIGGER lot_parent_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON lot_parent FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER tank_test_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON tank_test FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER tank_is_not_deleted BEFORE DELETE OR TRUNCATE ON tank FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
