/** A review sheet: what is looked at, how to judge it, and what came of it. */
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { sendThen, useChange } from "../../api/change";
import { useMay } from "../../api/hooks";
import { sheets } from "../../api/queries/sheets";
import type { Sheet, SheetAnswer, SheetLine, SheetOutcome } from "../../api/types";
import { base64Of } from "../../lib/base64";
import { day, plural } from "../../lib/words";
import { controlClass, Segments } from "../../ui/controls";
import { Downloads } from "../../ui/downloads";
import { Button, Card, LinkButton, Title } from "../../ui/parts";
import { Loaded, Trouble } from "../../ui/state";
import { useSay } from "../../ui/toast";
import { DIFFERENCES, lastTime, OUTCOMES } from "./outcomes";

const LARGEST = 5 * 1024 * 1024;
const CHOICES = (Object.keys(OUTCOMES) as SheetOutcome[]).map((value) => ({ value, label: OUTCOMES[value] }));

export function SheetScreen() {
  const { sheetId } = useParams();
  const found = useQuery(sheets.one(Number(sheetId)));
  return (
    <Loaded query={found} tall={14}>
      {(sheet) => <Content key={sheet.id} sheet={sheet} />}
    </Loaded>
  );
}

function Content({ sheet }: { sheet: Sheet }) {
  const may = useMay();
  const go = useNavigate();
  const prefill = useChange(sheets.prefill(sheet.id));
  const remove = useChange(sheets.remove(sheet.id));
  const make = useChange(sheets.makeTodos(sheet.id));
  const say = useSay();
  const mine = may("answer_sheet");
  const lines = sheet.parts.flatMap((part) => part.lines);
  const toDo = lines.filter((line) => line.outcome === "recommended" && !line.todo).map((line) => line.key);
  const error = prefill.error ?? remove.error ?? make.error;
  const forms = ["csv", "xlsx", "jsonl"] as const;
  return (
    <>
      <Title of={[sheet.name, sheet.site_host]} />
      <div className="mb-3 flex flex-wrap items-center justify-between gap-2">
        <div>
          <h2 className="text-base font-semibold">
            {sheet.name}, {day(sheet.day)}
          </h2>
          <p className="text-ink-2">
            {sheet.sentence}
            {sheet.before_id && (
              <>
                {" "}
                Compared with{" "}
                <Link to={`/sites/${sheet.site_id}/review/${sheet.before_id}`}>{day(sheet.before_day)}</Link>.
              </>
            )}
          </p>
        </div>
        <span className="flex flex-wrap items-center gap-2">
          <Downloads
            label="Table"
            items={forms.map((form) => ({
              label: form === "jsonl" ? "JSON Lines" : form.toUpperCase(),
              href: `/api/v1/sheets/${sheet.id}/export?form=${form}`,
            }))}
          />
          {mine && <FillIn sheet={sheet} />}
          {mine && (
            <Button
              disabled={prefill.isPending}
              title="Where nobody has looked yet"
              onClick={() => sendThen(prefill, undefined, () => say("What is known is filled in."))}
            >
              Fill in what is known
            </Button>
          )}
          {may("add_sheet_todos") && (
            <Button
              main
              disabled={make.isPending || toDo.length === 0}
              onClick={() => sendThen(make, toDo, (made) => say(`${plural(made.length, "to-do")} created.`))}
            >
              {toDo.length > 0 ? `Create ${plural(toDo.length, "to-do")}` : "Create to-dos"}
            </Button>
          )}
        </span>
      </div>
      {error && <Trouble error={error} />}
      <div className="space-y-4">
        {sheet.parts.map((part) => (
          <Card key={part.title} title={part.title || "Items"}>
            <div className="divide-line divide-y">
              {part.lines.map((line) => (
                <Line key={line.key} sheet={sheet} line={line} mine={mine} />
              ))}
            </div>
          </Card>
        ))}
      </div>
      {may("remove_sheet") && (
        <p className="mt-4">
          <LinkButton onClick={() => sendThen(remove, undefined, () => void go(`/sites/${sheet.site_id}/review`))}>
            Remove this sheet
          </LinkButton>{" "}
          <span className="text-ink-3 text-sm">To-dos that were made of it stay.</span>
        </p>
      )}
    </>
  );
}

/** Fills a sheet in from a table that was exported. */
function FillIn({ sheet }: { sheet: Sheet }) {
  const fill = useChange(sheets.fillIn(sheet.id));
  const say = useSay();
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined) => {
    if (file) sendThen(fill, await file.text(), () => say("The table is taken in."));
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".csv,.txt,.tsv"
        aria-label="Table of answers"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      <Button onClick={() => input.current?.click()}>From a table…</Button>
      {fill.error && <Trouble error={fill.error} />}
    </>
  );
}

function Line({ sheet, line, mine }: { sheet: Sheet; line: SheetLine; mine: boolean }) {
  const change = useChange(sheets.answer(sheet.id));
  const answer = (given: Omit<SheetAnswer, "item">) => change.mutate({ item: line.key, ...given });
  const before = lastTime(line);
  return (
    <section aria-label={line.text} className="grid gap-x-6 gap-y-1.5 py-3 first:pt-0 last:pb-0 lg:grid-cols-[2fr_3fr]">
      <div>
        <h3 className="font-semibold">{line.text}</h3>
        {line.how && <p className="text-ink-2 text-sm">{line.how}</p>}
        {before && (
          <p className="text-ink-3 text-sm">
            Last time: {before}
            {DIFFERENCES[line.difference] && (
              <>
                ;{" "}
                <b
                  className={line.difference === "worse" ? "text-bad" : line.difference === "better" ? "text-good" : ""}
                >
                  {DIFFERENCES[line.difference]}
                </b>
              </>
            )}
          </p>
        )}
      </div>
      <div className="min-w-0 space-y-1.5">
        {line.asks === "number" ? (
          <NumberAsked line={line} mine={mine} answer={answer} />
        ) : mine ? (
          <Segments
            label={`Outcome: ${line.text}`}
            value={line.outcome ?? "open"}
            onChange={(outcome) => answer({ outcome })}
            choices={CHOICES}
          />
        ) : (
          <p>{OUTCOMES[line.outcome ?? "open"]}</p>
        )}
        {(line.source || line.author) && (
          <p className="text-ink-3 text-sm">{line.source ? `From the ${line.source}` : `By ${line.author}`}</p>
        )}
        <Note line={line} mine={mine} answer={answer} />
        {change.error && <Trouble error={change.error} />}
        <div className="flex flex-wrap items-center gap-x-4 text-sm">
          {line.todo && (
            <Link to={`/todos/${line.todo.id}`}>
              to-do {line.todo.id}, {line.todo.state}
            </Link>
          )}
          <Files sheet={sheet} line={line} mine={mine} />
        </div>
      </div>
    </section>
  );
}

type Answering = { line: SheetLine; mine: boolean; answer: (given: Omit<SheetAnswer, "item">) => void };

function NumberAsked({ line, mine, answer }: Answering) {
  const known = typeof line.number === "number" ? String(line.number) : "";
  const [typed, setTyped] = useState<string | null>(null);
  const wrong = typed !== null && typed.trim() !== "" && !Number.isFinite(Number(typed));
  const send = () => {
    if (typed === null || wrong) return;
    if (typed.trim() !== known) answer({ number: typed.trim() === "" ? null : Number(typed) });
    setTyped(null);
  };
  return (
    <div>
      <span className="flex items-center gap-2">
        <input
          aria-label={`Number: ${line.text}`}
          aria-invalid={wrong}
          inputMode="decimal"
          className={`${controlClass} !w-32`}
          disabled={!mine}
          value={typed ?? known}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={send}
          onKeyDown={(event) => event.key === "Enter" && send()}
        />
        {line.unit}
      </span>
      {wrong && <p className="text-bad text-sm">Write a number, with decimals after a point.</p>}
    </div>
  );
}

function Note({ line, mine, answer }: Answering) {
  const [typed, setTyped] = useState<string | null>(null);
  if (!mine) return line.note ? <p className="wrap-anywhere whitespace-pre-line">{line.note}</p> : null;
  return (
    <textarea
      aria-label={`Note: ${line.text}`}
      placeholder="What was seen"
      rows={Math.max(1, (typed ?? line.note ?? "").split("\n").length)}
      className={controlClass}
      value={typed ?? line.note ?? ""}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => {
        if (typed !== null && typed !== line.note) answer({ note: typed });
        setTyped(null);
      }}
    />
  );
}

function Files({ sheet, line, mine }: { sheet: Sheet; line: SheetLine; mine: boolean }) {
  const attach = useChange(sheets.attach(sheet.id));
  const detach = useChange(sheets.detach(sheet.id));
  const say = useSay();
  const input = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > LARGEST) {
      say(`${file.name} is larger than 5 MiB. Choose a smaller file.`);
      return;
    }
    const content = base64Of(await file.arrayBuffer());
    sendThen(attach, { item: line.key, name: file.name, content }, (made) => say(`${made.name} is kept.`));
  };
  const error = attach.error ?? detach.error;
  return (
    <>
      {(line.files ?? []).map((file) => (
        <span key={file.id}>
          <a href={`/api/v1/sheets/${sheet.id}/files/${file.id}`} target="_blank" rel="noreferrer">
            {file.name}
          </a>{" "}
          {mine && (
            <LinkButton aria-label={`Remove the file ${file.name}`} onClick={() => detach.mutate(file.id)}>
              remove
            </LinkButton>
          )}
        </span>
      ))}
      {mine && (
        <>
          <input
            ref={input}
            type="file"
            aria-label={`File: ${line.text}`}
            className="sr-only"
            tabIndex={-1}
            onChange={(event) => {
              void take(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
          <LinkButton aria-label={`Attach a file: ${line.text}`} onClick={() => input.current?.click()}>
            attach a file
          </LinkButton>
        </>
      )}
      {error && <Trouble error={error} />}
    </>
  );
}
