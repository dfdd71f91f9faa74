import type { ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { Button } from 'antd';
import { useState } from 'react';
import type { Commit } from '../../document/session.ts';
import { ROLES, type Quantity, type Role } from '../../instruments/driver.ts';
import { BAUD_RATES, hasSerial } from '../../instruments/serial.ts';
import { EditableQuantity } from '../../kit/EditableQuantity.tsx';
import { QuietSelect } from '../../kit/SelectRow.tsx';
import { Leads } from './Leads.tsx';
import {
  fillPack,
  placesOf,
  putLeads,
  setOutput,
  setSpeed,
  setValue,
  switchLoads,
} from '../../atBench/hands.ts';
import {
  connectSerial,
  connectStandIns,
  disconnect,
  stopAll,
  useBench,
  useReadings,
  WORD,
  type Connection,
} from '../../atBench/connections.ts';
import { StepTest } from './StepTest.tsx';
import css from './instruments.module.css';

interface Props {
  doc: ThreadDocument;
  threadId: string;
  commit: Commit;
}

/** Instruments: real ones over serial ports, stand-ins over the local server, where their leads touch, and what they read. */
export function Instruments({ doc, threadId, commit }: Props) {
  const { connections, busy, trouble, standIns, threadId: of } = useBench();
  const some = ROLES.filter((r) => connections[r]);
  const other = some.length > 0 && of !== threadId;
  return (
    <section aria-label="Instruments" className={css.instruments}>
      <header>
        <h4>Instruments</h4>
        <span>
          {some.length === 0
            ? 'none connected'
            : standIns
              ? `stand-ins, hidden truth ${standIns.seed}`
              : 'over serial ports'}
          {busy && ` · ${busy}…`}
        </span>
        {some.length > 0 && (
          <>
            <Button size="small" onClick={() => void disconnect()}>
              Disconnect
            </Button>
            <Button size="small" danger onClick={() => void stopAll()} aria-label="Stop: every output off">
              ■ Stop
            </Button>
          </>
        )}
      </header>
      {trouble && (
        <p role="alert" className={css.trouble}>
          ✕ {trouble}
        </p>
      )}
      {other && <p className={css.trouble}>They are connected for another thread: disconnect them first.</p>}
      {some.length === 0 && <Connect {...{ doc, threadId }} />}
      {some.length > 0 && !other && (
        <>
          <div className={css.cards}>
            {some.map((role) => (
              <Card key={role} {...{ doc }} connection={connections[role]!} />
            ))}
            {standIns && <Hands doc={doc} />}
          </div>
          <Leads doc={doc} connections={some.map((r) => connections[r]!)} />
          {connections.load && connections.meter && standIns && <StepTest {...{ doc, commit }} />}
        </>
      )}
    </section>
  );
}

/** Ways to connect something. */
function Connect({ doc, threadId }: Pick<Props, 'doc' | 'threadId'>) {
  const [seed, setSeed] = useState(7);
  const [faulty, setFaulty] = useState(false);
  const [baud, setBaud] = useState<string>('9600');
  return (
    <div className={css.connect}>
      <div>
        <h5>Practise on stand-ins</h5>
        <p>
          A meter, an electronic load, a supply{doc.charging && ' and the charger'}, simulated, on a thread
          whose true figures are hidden from you, within their tolerances. Find them.
        </p>
        <p>
          Hidden truth{' '}
          <EditableQuantity
            label="Number of the hidden truth"
            value={seed}
            unit=""
            onCommit={(v) => {
              if (!Number.isInteger(v) || v! < 1 || v! > 9999)
                return [{ code: 'range', path: '', given: '', allowed: 'a whole number from 1 to 9999' }];
              setSeed(v!);
              return [];
            }}
          />{' '}
          <label>
            <input type="checkbox" checked={faulty} onChange={(e) => setFaulty(e.target.checked)} /> one set
            point wrong
          </label>
        </p>
        <Button
          size="small"
          type="primary"
          onClick={() => void connectStandIns(threadId, doc, { seed, faulty })}
        >
          Connect the stand-ins
        </Button>
      </div>
      <div>
        <h5>Real ones, by serial port</h5>
        {hasSerial() ? (
          <>
            <p>
              Instruments that take SCPI-style text. Check their limits first, and stay beside what they load
              or feed.
            </p>
            <p>
              at{' '}
              <QuietSelect
                label="Baud rate"
                value={baud}
                options={BAUD_RATES.map((b) => ({ value: String(b), label: `${b} baud` }))}
                onChange={setBaud}
              />
            </p>
            {(['meter', 'load', 'supply'] as const).map((role) => (
              <Button
                key={role}
                size="small"
                onClick={() => void connectSerial(threadId, doc, role, Number(baud))}
              >
                {WORD[role]}
              </Button>
            ))}
          </>
        ) : (
          <p>This browser has no serial ports; one built on Chromium has.</p>
        )}
      </div>
    </div>
  );
}

/** What each is set by. */
const SETS: Readonly<Record<Role, readonly Quantity[]>> = {
  meter: [],
  load: ['amps'],
  supply: ['volts', 'amps'],
  charger: [],
};
const UNIT = { volts: 'V', amps: 'A' } as const;
const SET_WORD = { volts: 'set', amps: 'set' } as const;

/** One instrument: what it reads, what it is set to, where its leads touch. */
function Card({ doc, connection: c }: { doc: ThreadDocument; connection: Connection }) {
  const places = placesOf(doc).map(({ place, words }) => ({ value: place, label: words }));
  const leads = c.role === 'meter' || c.role === 'load';
  return (
    <article className={css.card} data-on={c.on || undefined} aria-label={WORD[c.role]}>
      <h5>
        {WORD[c.role]} <em title={`${c.identity.maker} ${c.identity.model} ${c.identity.serial}`}>{c.via}</em>
      </h5>
      <Display role={c.role} />
      <p>
        {SETS[c.role].map((what) => (
          <span key={what}>
            {SET_WORD[what]}{' '}
            <EditableQuantity
              label={`${WORD[c.role]}, set ${what}`}
              value={c.set[what] ?? 0}
              unit={UNIT[what]}
              onCommit={(v) => {
                void setValue(c.role, what, v!);
                return [];
              }}
            />
          </span>
        ))}
        {c.role !== 'meter' && (
          <button
            type="button"
            className={css.output}
            aria-pressed={c.on}
            onClick={() => void setOutput(c.role, !c.on)}
          >
            {c.on ? '● on' : '○ off'}
          </button>
        )}
      </p>
      {leads ? (
        <p>
          leads on{' '}
          <QuietSelect
            label={`${WORD[c.role]}, leads on`}
            value={c.place}
            options={places.filter((p) => c.role === 'meter' || !['cell', 'charger'].includes(p.value))}
            onChange={(place) => void putLeads(c.role, place)}
          />
        </p>
      ) : (
        <p className="quiet">{c.role === 'supply' ? 'in the place of the pack' : 'as the thread charges'}</p>
      )}
      {c.trouble && (
        <p role="alert" className={css.trouble}>
          {c.trouble}
        </p>
      )}
    </article>
  );
}

/** Live readings, drawn anew by themselves. */
function Display({ role }: { role: Role }) {
  const read = useReadings((s) => s[role]);
  const told = (what: Quantity) =>
    read?.[what] === undefined ? '–' : formatQuantity(read[what], UNIT[what], 4);
  return (
    <p className={css.display}>
      <b>{told('volts')}</b>
      <b>{told('amps')}</b>
    </p>
  );
}

const SPEEDS = [1, 60, 600, 3600];

/** What one does by hand at the bench: loads on and off, the pack filled, time let go by. */
function Hands({ doc }: { doc: ThreadDocument }) {
  const { loads, speed } = useBench();
  const modes = doc.modes?.map((m) => ({ value: m.id, label: m.name })) ?? [];
  return (
    <article className={css.card} aria-label="Hands">
      <h5>
        By hand <em>simulated</em>
      </h5>
      <p>
        its loads{' '}
        <QuietSelect
          label="Loads of the thread"
          value={loads}
          options={[
            { value: 'off', label: 'off' },
            { value: 'on', label: doc.programme ? 'by programme' : 'on' },
            ...modes,
          ]}
          onChange={(v) => void switchLoads(v)}
        />
      </p>
      <p>
        <button type="button" className="link" onClick={() => void fillPack()}>
          fill the pack
        </button>
      </p>
      <p>
        time goes{' '}
        <QuietSelect
          label="Speed of time"
          value={String(speed)}
          options={SPEEDS.map((s) => ({
            value: String(s),
            label: s === 1 ? 'as it does' : `${s} times as fast`,
          }))}
          onChange={(v) => void setSpeed(Number(v))}
        />
      </p>
    </article>
  );
}
