-- What came, went or was promised of a lot stays as entered; a mistake is put right by another entry.
CREATE TRIGGER stock_entry_is_kept BEFORE UPDATE OR DELETE OR TRUNCATE ON stock_entry FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
