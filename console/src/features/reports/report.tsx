/** A report: its sections beside a preview, its versions, its approval, and whom it goes to. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { sendThen, useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { reports } from "../../api/queries/reports";
import type { ReportChange, ReportFull } from "../../api/types";
import { isDay } from "../../lib/dates";
import { useSettled } from "../../lib/settled";
import { day, moment } from "../../lib/words";
import { controlClass, DayInput, Labelled, Select } from "../../ui/controls";
import { Downloads } from "../../ui/downloads";
import { Button, Card, Heading, LinkButton, Title } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { Unsaved } from "../../ui/unsaved";
import { PAUSE_MS, previewClass } from "./preview";
import { SaveBar, Sections } from "./sections";
import { Sharing } from "./sharing";
import { StateWord } from "./state-word";

export function ReportScreen() {
  const { reportId } = useParams();
  const report = useQuery(reports.one(Number(reportId)));
  return (
    <Loaded query={report} tall={14}>
      {(data) => <Content key={`${data.id} ${data.version}`} report={data} />}
    </Loaded>
  );
}

const FORMS = [
  { label: "PDF", form: "pdf", opens: true },
  { label: "Web page", form: "html", opens: true },
  { label: "Word document", form: "docx" },
  { label: "Tables as a workbook", form: "xlsx" },
] as const;

function Content({ report }: { report: ReportFull }) {
  const may = useMay();
  const go = useNavigate();
  const say = useSay();
  const languages = useQuery(reports.offer()).data?.languages ?? {};
  const [title, setTitle] = useState(report.title);
  const [language, setLanguage] = useState(report.language ?? "en");
  const [first, setFirst] = useState(report.from_day);
  const [last, setLast] = useState(report.to_day);
  const [sections, setSections] = useState(report.sections);
  const change = useChange(reports.change(report.id, report.version ?? 1));
  const refresh = useChange(reports.refresh(report.id));
  const remove = useChange(reports.remove(report.id));
  const approve = useChange(reports.approve(report.id, report.version ?? 1));
  const edits = may("change_report");
  const days = { from_day: isDay(first) ? first : report.from_day, to_day: isDay(last) ? last : report.to_day };
  const draft: ReportChange = { title: title.trim() || report.title, language, ...days, sections };
  const kept: ReportChange = {
    title: report.title,
    language: report.language,
    from_day: report.from_day,
    to_day: report.to_day,
    sections: report.sections,
  };
  const dirty = JSON.stringify(draft) !== JSON.stringify(kept);
  const approved = report.state !== "draft";
  const error = change.error ?? refresh.error ?? remove.error ?? approve.error;
  return (
    <>
      <Title of={[report.title]} />
      <Heading over={<Link to="/reports">Reports</Link>} title={report.title}>
        <Downloads
          label="Download"
          items={FORMS.map(({ form, ...item }) => ({ ...item, href: `/api/v1/reports/${report.id}/${form}` }))}
        />
        {edits && (
          <Button
            disabled={dirty || refresh.isPending}
            title={dirty ? "Save your changes first" : "Figures that came after the report was made"}
            onClick={() => sendThen(refresh, undefined, () => say("The figures are as they are now."))}
          >
            Refresh figures
          </Button>
        )}
        {may("approve_report") && (
          <Button
            main={!dirty && !approved}
            disabled={dirty || approved || approve.isPending}
            title={dirty ? "Save your changes first" : undefined}
            onClick={() =>
              sendThen(approve, report.planned != null, () =>
                say(report.planned ? "Approved, and on its way." : "Approved. Clients see it from now on."),
              )
            }
          >
            {report.planned ? "Approve and send" : "Approve report"}
          </Button>
        )}
      </Heading>
      <p className="text-ink-2 mt-1">
        <StateWord report={report} />, {report.site_host}, {day(report.from_day)} to {day(report.to_day)}
        {report.planned && !approved && (
          <span className="text-ink-3">
            {" "}
            · goes to {report.planned.recipients.map((each) => each.name).join(", ")} once it is approved
          </span>
        )}
      </p>
      {report.state === "draft" && report.approved_version != null && (
        <p className="text-ink-2 mt-1">
          Clients see version {report.approved_version}, which was approved on {moment(report.approved_at)}, until you
          approve this one.
        </p>
      )}
      {error && <Trouble error={error} />}
      <div className="mt-3.5 grid items-start gap-4 lg:grid-cols-[minmax(300px,2fr)_3fr]">
        <div className="min-w-0 space-y-4">
          <Card
            title="Sections"
            aside={
              edits && (
                <SaveBar
                  dirty={dirty}
                  busy={change.isPending}
                  onSave={() => sendThen(change, draft, () => say("The report is saved."))}
                  onDrop={() => {
                    setTitle(report.title);
                    setLanguage(report.language ?? "en");
                    setFirst(report.from_day);
                    setLast(report.to_day);
                    setSections(report.sections);
                  }}
                >
                  Save report
                </SaveBar>
              )
            }
          >
            <div className="mb-2.5 grid gap-2.5 sm:grid-cols-[1fr_130px]">
              <Labelled label="Title of the report">
                {(tied) => (
                  <input
                    {...tied}
                    className={controlClass}
                    disabled={!edits}
                    maxLength={300}
                    value={title}
                    onChange={(event) => setTitle(event.target.value)}
                  />
                )}
              </Labelled>
              <Labelled label="Language">
                {(tied) => (
                  <Select
                    {...tied}
                    disabled={!edits}
                    value={language}
                    onChange={setLanguage}
                    choices={Object.entries(languages).map(([value, label]) => ({ value, label }))}
                  />
                )}
              </Labelled>
            </div>
            <div className="mb-3 grid grid-cols-2 gap-2.5">
              {(
                [
                  ["First day", first, setFirst],
                  ["Last day", last, setLast],
                ] as const
              ).map(([label, value, onChange]) => (
                <Labelled key={label} label={label}>
                  {(tied) => (
                    <DayInput
                      {...tied}
                      name={label.toLowerCase()}
                      disabled={!edits}
                      value={value}
                      onChange={onChange}
                    />
                  )}
                </Labelled>
              ))}
            </div>
            <Sections
              sections={sections}
              onChange={setSections}
              siteId={report.site_id}
              empty={report.empty}
              disabled={!edits}
            />
          </Card>
          <Sharing report={report} />
          <Versions report={report} />
          {may("remove_report") && (
            <p>
              <LinkButton onClick={() => sendThen(remove, undefined, () => void go("/reports"))}>
                Remove this report
              </LinkButton>{" "}
              <span className="text-ink-3 text-sm">Its versions and share links go with it.</span>
            </p>
          )}
        </div>
        <Preview report={report} draft={draft} live={edits && dirty} />
      </div>
      <Unsaved dirty={edits && dirty} what="What you changed in this report would be lost." />
    </>
  );
}

/** The report as it would be: what is saved, or what is being written, a moment after the last key. */
function Preview({ report, draft, live }: { report: ReportFull; draft: ReportChange; live: boolean }) {
  const settled = useSettled(draft, PAUSE_MS);
  const found = useQuery({ ...reports.preview(report.id, settled), enabled: live });
  return (
    <div className="min-w-0 lg:sticky lg:top-4">
      {live && found.error && <Trouble error={found.error} />}
      {live && found.data ? (
        <iframe title={`Preview of ${report.title}`} srcDoc={found.data} sandbox="" className={previewClass} />
      ) : (
        <iframe
          title={report.title}
          src={`/api/v1/reports/${report.id}/html?version=${report.version}`}
          className={previewClass}
        />
      )}
    </div>
  );
}

function Versions({ report }: { report: ReportFull }) {
  const may = useMay();
  const say = useSay();
  const restore = useChange(reports.restore(report.id));
  return (
    <Card title="Versions">
      {restore.error && <Trouble error={restore.error} />}
      <ol className="divide-line divide-y">
        {report.versions.map((each) => (
          <li key={each.number} className="flex flex-wrap items-baseline justify-between gap-x-3 py-1.5">
            <span>
              <a
                className="underline"
                href={`/api/v1/reports/${report.id}/html?version=${each.number}`}
                target="_blank"
                rel="noreferrer"
              >
                Version {each.number}
              </a>{" "}
              {each.what}
              {each.number === report.approved_version && <b className="text-good font-semibold"> · approved</b>}
              <span className="text-ink-3 block text-sm">
                {each.author}, {moment(each.at)}
              </span>
            </span>
            {may("restore_report") && each.number !== report.version && (
              <LinkButton
                aria-label={`Go back to version ${each.number}`}
                disabled={restore.isPending}
                onClick={() => sendThen(restore, each.number, () => say(`Version ${each.number} is back.`))}
              >
                Go back
              </LinkButton>
            )}
          </li>
        ))}
      </ol>
    </Card>
  );
}
