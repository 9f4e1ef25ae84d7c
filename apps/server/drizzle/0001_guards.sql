-- What was recorded stays: audit events, readings and issued reports refuse update and delete.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'rows of % are kept as written', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
--> statement-breakpoint
CREATE TRIGGER audit_event_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON audit_event FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER report_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON report FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER cure_run_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON cure_run FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER balance_run_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON balance_run FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE FUNCTION only_sign() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF to_jsonb(NEW) - 'signed' IS DISTINCT FROM to_jsonb(OLD) - 'signed' OR OLD.signed IS NOT NULL THEN
    RAISE EXCEPTION 'a reading is kept as written; correct it with a new one' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER test_run_is_kept BEFORE UPDATE ON test_run FOR EACH ROW EXECUTE FUNCTION only_sign();
--> statement-breakpoint
CREATE TRIGGER test_run_is_not_deleted BEFORE DELETE OR TRUNCATE ON test_run FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
