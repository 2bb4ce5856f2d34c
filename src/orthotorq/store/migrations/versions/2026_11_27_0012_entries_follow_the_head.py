"""Entries follow the head of their run, and nothing but an entry moves it: checked and done by a function of the owner.

Revision ID: 0012
Revises: 0011
"""
from __future__ import annotations

from alembic import context, op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

#: what the application may still change of a run; its revision, who began it and the end of its chain are none of them
CHANGED = "status, lease_epoch, lease_device, lease_person, provisional, conflicts, checked, moved, ended_at, code"


def upgrade() -> None:
    """Add the function, and take from the application what the function does now."""
    role = context.config.attributes["app_role"]
    op.execute("""
        CREATE FUNCTION follow_head() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
        BEGIN
            UPDATE run SET head_sequence = NEW.sequence, head_hash = NEW.hash
            WHERE id = NEW.run_id AND head_sequence = NEW.sequence - 1 AND head_hash = NEW.previous_hash
                  AND NEW.hash = encode(sha256(convert_to(NEW.previous_hash || NEW.canonical, 'UTF8')), 'hex');
            IF NOT FOUND THEN
                RAISE EXCEPTION 'entry % does not follow the end of its chain', NEW.sequence USING ERRCODE = 'restrict_violation';
            END IF;
            RETURN NULL;
        END $$""")
    op.execute("REVOKE ALL ON FUNCTION follow_head() FROM PUBLIC")
    # after the row stands, so that an entry that is refused for another reason moves nothing
    op.execute("CREATE TRIGGER event_follows AFTER INSERT ON event FOR EACH ROW EXECUTE FUNCTION follow_head()")
    op.execute(f'REVOKE UPDATE ON run FROM "{role}"')
    op.execute(f'GRANT UPDATE ({CHANGED}) ON run TO "{role}"')


def downgrade() -> None:
    """Let the application move the head itself."""
    op.execute("DROP TRIGGER event_follows ON event")
    op.execute("DROP FUNCTION follow_head()")
    op.execute(f'GRANT UPDATE ON run TO "{context.config.attributes["app_role"]}"')
