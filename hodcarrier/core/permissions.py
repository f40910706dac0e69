"""Who may do what: one table of operations by roles. Routes, the OpenAPI document, the console and the tests read it here."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Role(StrEnum):
    """What a member is to the agency. A fixer (developer, writer) works on to-dos; a guest belongs to one client."""

    OWNER = "owner"
    LEAD = "lead"
    ANALYST = "analyst"
    FIXER = "fixer"
    GUEST = "guest"


class Extent(StrEnum):
    """What an operation may be done with: nothing, one's own items, those of one's own client, or those of any client."""

    NONE = "none"
    OWN_ITEMS = "own-items"
    OWN_CLIENT = "own-client"
    ANY_CLIENT = "any-client"


@dataclass(frozen=True, slots=True)
class Permission:
    """What each role may do with one operation. ``public``: without signing in."""

    owner: Extent = Extent.NONE
    lead: Extent = Extent.NONE
    analyst: Extent = Extent.NONE
    fixer: Extent = Extent.NONE
    guest: Extent = Extent.NONE
    public: bool = False

    def of(self, role: Role) -> Extent:
        """What a role may do."""
        extent: Extent = getattr(self, role.value)
        return extent

    @property
    def roles(self) -> list[Role]:
        """The roles that may do it at all, the most trusted first."""
        return [role for role in Role if self.of(role) is not Extent.NONE]

    def words(self) -> str:
        """Who may do it, for a message: "an owner or lead"."""
        names = [role.value for role in self.roles]
        if not names:
            return "nobody"
        article = "an" if names[0][0] in "aeiou" else "a"
        return f"{article} {names[0]}" if len(names) == 1 else f"{article} {', '.join(names[:-1])} or {names[-1]}"


_ANY, _CLIENT, _ITEMS = Extent.ANY_CLIENT, Extent.OWN_CLIENT, Extent.OWN_ITEMS
PUBLIC = Permission(_ANY, _ANY, _ANY, _ANY, _ANY, public=True)
ONESELF = Permission(_ITEMS, _ITEMS, _ITEMS, _ITEMS, _ITEMS)
STAFF_ITEMS_OR_OWNER = Permission(_ANY, _ITEMS, _ITEMS, _ITEMS)
STAFF_ITEMS = Permission(_ITEMS, _ITEMS, _ITEMS, _ITEMS)
READERS = Permission(_ANY, _ANY, _ANY, _ANY, _CLIENT)
STAFF = Permission(_ANY, _ANY, _ANY, _ANY)
FOR_CLIENTS = Permission(_ANY, _ANY, _ANY, guest=_CLIENT)
ANALYSTS = Permission(_ANY, _ANY, _ANY)
WORKERS = Permission(_ANY, _ANY, _ANY, _ITEMS)
LEADS = Permission(_ANY, _ANY)
OWNERS = Permission(_ANY)

PERMISSIONS: dict[str, Permission] = {
    # people
    "sign_in": PUBLIC,
    "sign_out": PUBLIC,
    "ask_reset": PUBLIC,
    "set_password": PUBLIC,
    "begin_second_step": ONESELF,
    "confirm_second_step": ONESELF,
    "end_second_step": ONESELF,
    "list_sessions": ONESELF,
    "end_session": ONESELF,
    "who_am_i": ONESELF,
    "change_preferences": ONESELF,
    "list_members": STAFF,
    "add_member": LEADS,
    "invite_member": LEADS,
    "invite_again": LEADS,
    "list_log": LEADS,
    "change_member": OWNERS,
    "list_tokens": STAFF_ITEMS,
    "list_feeds": STAFF,
    "add_feed": STAFF,
    "remove_feed": STAFF,
    "list_all_tokens": OWNERS,
    "add_token": STAFF_ITEMS,
    "revoke_token": STAFF_ITEMS_OR_OWNER,
    # run files
    "get_retention": LEADS,
    "apply_retention": OWNERS,
    # clients and sites
    "list_clients": STAFF,
    "get_client": STAFF,
    "add_client": ANALYSTS,
    "first_look": ANALYSTS,
    "set_up_client": LEADS,
    "change_client": ANALYSTS,
    "remove_client": LEADS,
    "list_sites": STAFF,
    "get_site": STAFF,
    "add_site": ANALYSTS,
    "remove_site": LEADS,
    # plans, access, schedules and profiles
    "list_plan_settings": STAFF,
    "get_plan": STAFF,
    "change_plan": ANALYSTS,
    "preview_plan": STAFF,
    "get_plan_toml": STAFF,
    "replace_plan": ANALYSTS,
    "copy_plan": ANALYSTS,
    "get_access": ANALYSTS,
    "set_access": ANALYSTS,
    "remove_access": ANALYSTS,
    "get_schedule": STAFF,
    "set_schedule": ANALYSTS,
    "pause_schedule": ANALYSTS,
    "resume_schedule": ANALYSTS,
    "remove_schedule": ANALYSTS,
    "list_profiles": STAFF,
    "get_profile": STAFF,
    "add_profile": ANALYSTS,
    "change_profile": ANALYSTS,
    "remove_profile": LEADS,
    "list_presets": STAFF,
    "add_preset": ANALYSTS,
    "change_preset": ANALYSTS,
    "remove_preset": LEADS,
    "plan_site_changes": ANALYSTS,
    "change_sites": ANALYSTS,
    "get_week": STAFF,
    # notes on a site
    "list_remarks": STAFF,
    "add_remark": ANALYSTS,
    "remove_remark": ANALYSTS,
    "list_waivers": STAFF,
    "add_waiver": ANALYSTS,
    "add_waivers": ANALYSTS,
    "preview_waivers": ANALYSTS,
    "change_waiver": ANALYSTS,
    "remove_waiver": ANALYSTS,
    "remove_waivers": ANALYSTS,
    "list_metrics": STAFF,
    # review sheets
    "list_sheet_templates": STAFF,
    "add_sheet_template": ANALYSTS,
    "replace_sheet_template": ANALYSTS,
    "remove_sheet_template": ANALYSTS,
    "export_sheet_template": STAFF,
    "list_sheets": STAFF,
    "start_sheet": ANALYSTS,
    "get_sheet": STAFF,
    "answer_sheet": ANALYSTS,
    "prefill_sheet": ANALYSTS,
    "remove_sheet": ANALYSTS,
    "add_sheet_todos": ANALYSTS,
    "add_sheet_file": ANALYSTS,
    "get_sheet_file": STAFF,
    "remove_sheet_file": ANALYSTS,
    "export_sheet": STAFF,
    "list_figures": STAFF,
    "add_figures": ANALYSTS,
    "list_figure_files": ANALYSTS,
    "add_figure_file": ANALYSTS,
    "get_figure_file": ANALYSTS,
    "lay_out_figure_file": ANALYSTS,
    "import_figure_file": ANALYSTS,
    "remove_figure_file": ANALYSTS,
    "export_search_figures": STAFF,
    "export_visits": STAFF,
    "export_positions": STAFF,
    "export_backlinks": STAFF,
    "get_search_figures": STAFF,
    "get_visits": STAFF,
    "get_page_figures": STAFF,
    "list_figure_feeds": ANALYSTS,
    "add_figure_feed": ANALYSTS,
    "change_figure_feed": ANALYSTS,
    "remove_figure_feed": ANALYSTS,
    "pull_figure_feed": ANALYSTS,
    "get_domain": STAFF,
    "get_positions": STAFF,
    "get_backlinks": STAFF,
    "get_paid": STAFF,
    "get_trend": STAFF,
    "list_trend_figures": STAFF,
    "export_trend": STAFF,
    # runs and what they found
    "list_runs": STAFF,
    "start_run": ANALYSTS,
    "fetch_as": ANALYSTS,
    "get_run": STAFF,
    "watch_run": STAFF,
    "stop_run": ANALYSTS,
    "resume_run": ANALYSTS,
    "examine_again": ANALYSTS,
    "list_checks": STAFF,
    "get_check": STAFF,
    "list_causes": STAFF,
    "list_findings": STAFF,
    "get_finding": STAFF,
    "get_finding_history": STAFF,
    "get_page_history": STAFF,
    "list_columns": STAFF,
    "list_inventory_views": STAFF,
    "list_inventory": STAFF,
    "get_inventory_figures": STAFF,
    "export_inventory": STAFF,
    "get_page": STAFF,
    "get_page_terms": STAFF,
    "get_page_data": STAFF,
    "get_page_languages": STAFF,
    "get_page_way": STAFF,
    "get_page_source": STAFF,
    "try_snippet": STAFF,
    "look_at_pages": STAFF,
    "get_structure": STAFF,
    "get_template_links": STAFF,
    "plan_fixes": STAFF,
    "list_site_files": STAFF,
    "preview_sitemap": STAFF,
    "export_sitemap": STAFF,
    "get_published_sitemap": STAFF,
    "publish_sitemap": ANALYSTS,
    "withdraw_sitemap": ANALYSTS,
    "look_at_page": STAFF,
    "export_run": STAFF,
    "export_worklist": STAFF,
    "export_comparison": STAFF,
    "compare_runs": STAFF,
    "list_compared_parts": STAFF,
    "list_page_changes": STAFF,
    "list_compared_urls": STAFF,
    "compare_columns": STAFF,
    # work
    "get_desk": STAFF,
    "watch_changes": STAFF,
    "list_views": STAFF,
    "add_view": STAFF,
    "remove_view": STAFF,
    "acknowledge_alert": ANALYSTS,
    "list_todos": STAFF,
    "get_todo": STAFF,
    "add_todo": ANALYSTS,
    "plan_todos": ANALYSTS,
    "add_todos": ANALYSTS,
    "change_todos": ANALYSTS,
    "get_load": STAFF,
    "list_labels": STAFF,
    "change_todo": WORKERS,
    "check_todo": WORKERS,
    "list_approvals": READERS,
    "answer_approval": FOR_CLIENTS,
    "export_todos": STAFF,
    "import_todos": ANALYSTS,
    "list_recurring": STAFF,
    "add_recurring": ANALYSTS,
    "remove_recurring": ANALYSTS,
    "list_todo_files": STAFF,
    "add_todo_file": WORKERS,
    "get_todo_file": STAFF,
    "remove_todo_file": WORKERS,
    "get_todo_sheet": STAFF,
    "list_todo_links": STAFF,
    "add_todo_link": WORKERS,
    "revoke_todo_link": WORKERS,
    "list_benchmarks": STAFF,
    "get_benchmark": STAFF,
    "get_benchmark_trend": STAFF,
    "export_benchmark": STAFF,
    "add_benchmark": ANALYSTS,
    "change_benchmark": ANALYSTS,
    "remove_benchmark": LEADS,
    "set_round_schedule": ANALYSTS,
    "remove_round_schedule": ANALYSTS,
    "start_round": ANALYSTS,
    # reports
    "get_report_offer": STAFF,
    "list_report_templates": STAFF,
    "add_report_template": ANALYSTS,
    "replace_report_template": ANALYSTS,
    "remove_report_template": ANALYSTS,
    "try_report_template": ANALYSTS,
    "list_reports": READERS,
    "get_report": STAFF,
    "add_report": ANALYSTS,
    "change_report": ANALYSTS,
    "preview_report": ANALYSTS,
    "refresh_report": ANALYSTS,
    "restore_report": ANALYSTS,
    "approve_report": LEADS,
    "send_report": ANALYSTS,
    "remove_report": LEADS,
    "get_report_page": READERS,
    "get_report_pdf": READERS,
    "get_report_docx": READERS,
    "get_report_xlsx": READERS,
    "list_report_links": STAFF,
    "add_report_link": ANALYSTS,
    "prolong_report_link": ANALYSTS,
    "revoke_report_link": ANALYSTS,
    "list_report_schedules": STAFF,
    "add_report_schedule": ANALYSTS,
    "change_report_schedule": ANALYSTS,
    "remove_report_schedule": ANALYSTS,
    "get_brand": STAFF,
    "set_brand": LEADS,
    "get_logo": STAFF,
    "get_client_brand": STAFF,
    "set_client_brand": ANALYSTS,
    "get_client_logo": STAFF,
    "get_portal": READERS,
    # mail
    "list_deliveries": LEADS,
    "send_again": LEADS,
    # webhooks
    "list_webhooks": LEADS,
    "add_webhook": LEADS,
    "change_webhook": LEADS,
    "remove_webhook": LEADS,
    "renew_secret": LEADS,
    "try_webhook": LEADS,
    "list_messages": LEADS,
    "send_message_again": LEADS,
    # the catalogue
    "list_catalogue": STAFF,
    "get_catalogue_entry": STAFF,
    "list_failing_checks": STAFF,
    "list_failing_sites": STAFF,
    "search": STAFF,
}
