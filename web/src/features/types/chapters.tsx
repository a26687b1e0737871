import { bandEdge, type Item, sayCondition, stagesOf, type TypeFile } from '@rouse/core/aircraft';
import { useUnits } from '../../ui/units.ts';
import { Chapter } from './sheet.ts';
import { Table } from '../../ui/table.tsx';

/** Limits as a pilot reads them: by reading, by phase, mild to severe. */
export function Limits({ type }: { type: TypeFile }) {
  return (
    <Chapter id="limits">
      <h2>Limits</h2>
      <Table>
        <thead>
          <tr>
            <th>Reading</th>
            <th>When</th>
            <th className="n">Limit</th>
            <th className="n">Allowed</th>
            <th>Severity</th>
            <th>Then</th>
          </tr>
        </thead>
        <tbody>
          {type.limits.flatMap((limit) => {
            const channel = type.channels.find((c) => c.id === limit.channel)!;
            return limit.bands.map((band, i) => (
              <tr key={`${limit.id} ${band.id}`}>
                <td>{i === 0 ? channel.label : ''}</td>
                <td>{i === 0 ? limit.phases.join(', ') : ''}</td>
                <td className="n">
                  {'above' in band ? 'above' : 'below'} {bandEdge(band)} {channel.unit}
                </td>
                <td className="n">
                  {band.forSeconds === 0
                    ? 'never'
                    : `${band.forSeconds} s${band.counting === 'cumulative' ? ' in all' : ''}`}
                </td>
                <td data-severity={band.severity}>{band.severity}</td>
                <td>{band.action}</td>
              </tr>
            ));
          })}
        </tbody>
      </Table>
    </Chapter>
  );
}

/** Power charts as tables. */
export function Charts({ type }: { type: TypeFile }) {
  const { show } = useUnits();
  const { chart, engine } = type.performance;
  return (
    <Chapter id="charts">
      <h2>Power charts, edition {chart.edition}</h2>
      <p>
        {chart.quantity} in {chart.unit} by pressure altitude and outside temperature. A dash is not permitted. Between
        the figures a straight line; outside the table nothing.
      </p>
      {(['TOP', 'MCP'] as const).map((rating) => (
        <div key={rating}>
          <h3>{rating === 'TOP' ? 'Take-off, five minutes' : 'Continuous'}</h3>
          <Table>
            <thead>
              <tr>
                <th>Pressure altitude</th>
                {chart[rating].oat_C.map((t) => (
                  <th key={t} className="n">
                    {show(t, 'temperature')}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {chart[rating].pa_ft.map((pa, i) => (
                <tr key={pa}>
                  <th>{show(pa, 'height')}</th>
                  {chart[rating].values[i]!.map((v, j) => (
                    <td key={chart[rating].oat_C[j]} className="n">
                      {v === null ? '–' : v.toFixed(1)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      ))}
      {engine && (
        <>
          <h3>Ratings, each engine</h3>
          <Table>
            <thead>
              <tr>
                <th>Rating</th>
                <th className="n">Torque</th>
                <th className="n">Temperature</th>
                <th className="n">Gas producer</th>
              </tr>
            </thead>
            <tbody>
              {Object.entries(engine.ratings).map(([id, r]) => (
                <tr key={id}>
                  <td>{RATINGS[id as keyof typeof RATINGS]}</td>
                  <td className="n">{r.torque_pct} %</td>
                  <td className="n">{r.tot_C} °C</td>
                  <td className="n">{r.ng_pct} %</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </>
      )}
    </Chapter>
  );
}

const RATINGS = {
  TOP: 'Take-off',
  MCP: 'Continuous',
  OEI_30S: 'One engine out, 30 seconds',
  OEI_2MIN: 'One engine out, 2 minutes',
  OEI_CONT: 'One engine out, continuous',
} as const;

/** Loading, wind and electrical loads. */
export function Airframe({ type }: { type: TypeFile }) {
  const { show } = useUnits();
  const { loading, wind } = type;
  return (
    <Chapter id="airframe">
      <h2>Loading, wind, loads</h2>
      <p>
        Greatest weight {show(loading.mtow_kg, 'mass', 'floor')}, basic {show(loading.basic.mass_kg, 'mass')}. Datum:{' '}
        {loading.envelope.datum}.
      </p>
      <Table>
        <thead>
          <tr>
            <th>Station</th>
            <th className="n">Arm, m</th>
            <th className="n">Across, m</th>
            <th className="n">Most</th>
          </tr>
        </thead>
        <tbody>
          {loading.stations.map((s) => (
            <tr key={s.id}>
              <td>{s.label}</td>
              <td className="n">{s.arm_long_m.toFixed(2)}</td>
              <td className="n">{s.arm_lat_m.toFixed(2)}</td>
              <td className="n">{show(s.max_kg, 'mass', 'floor')}</td>
            </tr>
          ))}
          <tr>
            <td>Fuel</td>
            <td className="n">{loading.fuel.arm_table.map((r) => r[1].toFixed(2)).join(' … ')}</td>
            <td className="n">–</td>
            <td className="n">{show(loading.fuel.max_L, 'volume', 'floor')}</td>
          </tr>
        </tbody>
      </Table>
      <h3>Wind for the rotor</h3>
      <Table>
        <thead>
          <tr>
            <th>The rotor is</th>
            <th className="n">Ahead</th>
            <th className="n">Right</th>
            <th className="n">Behind</th>
            <th className="n">Left</th>
          </tr>
        </thead>
        <tbody>
          {(['start', 'stop'] as const).map((phase) => (
            <tr key={phase}>
              <td>{phase === 'start' ? 'Starting' : 'Stopping'}</td>
              {(['HEAD', 'RIGHT', 'TAIL', 'LEFT'] as const).map((side) => (
                <td key={side} className="n">
                  {show(wind.rotor_kt[phase][side], 'wind', 'floor')}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
      <p>Gusts at most {wind.rotor_kt.gust_spread} kt above the mean.</p>
      <h3>Electrical loads</h3>
      <p>{type.electricalLoads.map((l) => `${l.label} ${l.amps} A`).join(', ')}.</p>
      <h3>Has to be on board</h3>
      <Table>
        <tbody>
          {type.equipment.map((e) => (
            <tr key={e.id}>
              <td>
                {e.label}
                <small>{e.why}</small>
              </td>
              <td data-failure={e.failure}>{e.failure}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Chapter>
  );
}

/** Every line of the procedure, leg by leg. */
export function Procedure({ type }: { type: TypeFile }) {
  return (
    <>
      {type.legs.map((leg) => {
        const items = type.items.filter((i) => i.leg === leg.id);
        if (items.length === 0) return null;
        return (
          <Chapter key={leg.id} id={`leg-${leg.id}`}>
            <h2>
              {leg.label}, {items.length} items
            </h2>
            {leg.gate && <p>Opens only when nothing is out of its place and no no-go stands.</p>}
            <Table>
              <thead>
                <tr>
                  <th>Challenge</th>
                  <th>Response</th>
                  <th>Zone</th>
                  <th>Why, and what skipping costs</th>
                  <th>Failing is</th>
                </tr>
              </thead>
              <tbody>
                {items.map((item) => (
                  <tr key={item.id}>
                    <td>
                      {item.challenge}
                      <small>
                        {item.kind}
                        {item.by === 'second-crew' ? ', second crew' : ''}
                      </small>
                    </td>
                    <td>
                      {item.response}
                      <small>{sensedBy(type, item)}</small>
                    </td>
                    <td>{item.zone}</td>
                    <td>
                      {item.why}
                      <small>{item.ifSkipped}</small>
                    </td>
                    <td data-failure={item.failure}>{item.failure}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Chapter>
        );
      })}
    </>
  );
}

/** How an item is judged, and when it is on the list. */
function sensedBy(type: TypeFile, item: Item): string {
  const parts: string[] = [];
  const condition = item.kind === 'wait' ? item.until : 'expect' in item ? item.expect : undefined;
  if (condition) parts.push(sayCondition(condition, type.channels, true));
  for (const stage of stagesOf(item)) parts.push(stage.do);
  if (item.kind === 'wait' || item.kind === 'watch') parts.push(`usually ${item.usual_s} s`);
  if (item.deadline) parts.push(`late after ${item.deadline.within_s} s`);
  for (const when of item.when ?? []) {
    const challenge = (id: string): string | undefined => type.items.find((i) => i.id === id)?.challenge.toLowerCase();
    if ('check' in when) parts.push(`only once ${challenge(when.check)} ${when.found.join(' or ')}`);
    else {
      const name =
        'choice' in when
          ? type.choices.find((c) => c.id === when.choice)?.question.toLowerCase()
          : challenge(when.decision);
      parts.push(`only when ${name} is ${[when.is].flat().join(' or ')}`);
    }
  }
  return parts.join('; ');
}
