import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { changesLog, members } from "../../api/queries/team";
import { moment } from "../../lib/words";
import { Labelled, SearchInput, Select } from "../../ui/controls";
import { Card } from "../../ui/parts";
import { Loaded } from "../../ui/state";
import { nextPart, Table } from "../../ui/table";

/** Who did what, the latest first. */
export function ChangesLog() {
  const [text, setText] = useState("");
  const [who, setWho] = useState("");
  const everybody = useQuery(members.all()).data ?? [];
  const found = useInfiniteQuery(changesLog.of(text, who ? Number(who) : undefined));
  return (
    <Card title="Log" aside="who did what">
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <SearchInput label="Search the log" value={text} onChange={setText} />
        <div className="w-56 max-w-full">
          <Labelled label="By">
            {(tied) => (
              <Select
                {...tied}
                value={who}
                onChange={setWho}
                choices={[
                  { value: "", label: "anybody" },
                  ...everybody.map((m) => ({ value: String(m.id), label: m.name })),
                ]}
              />
            )}
          </Labelled>
        </div>
      </div>
      <Loaded query={found} tall={8}>
        {(data) => {
          const rows = data.pages.flatMap((part) => part.items);
          return (
            <Table
              rows={rows}
              id={(r) => r.id}
              caption="What was done"
              empty="Nothing like that was done."
              more={{ total: data.pages[0]?.total ?? rows.length, load: nextPart(found) }}
              columns={[
                { head: "When", cell: (r) => <span className="whitespace-nowrap">{moment(r.at)}</span> },
                { head: "Who", cell: (r) => r.who },
                { head: "What", cell: (r) => r.action },
                { head: "Of what", cell: (r) => <span className="break-words">{r.subject}</span> },
              ]}
            />
          );
        }}
      </Loaded>
    </Card>
  );
}
