import { chakra } from '@chakra-ui/react';
import { FileDown, Lock, Printer } from 'lucide-react';
import { useCallback, useState } from 'react';
import { Link } from 'react-router';
import { LOCAL_CODE } from '#core/lighting/check';
import type { Proof } from '#core/order/assess';
import { may } from '#core/people/permissions';
import { sayInUnits } from '#core/quantity/quantity';
import type { Verdict } from '#model/common';
import { usePerson } from '../../app/context';
import { useDraft } from '../../app/kept';
import { Act, Entry, FileLink, FormDialog, PaperLink, Labelled, Lines, ReasonDialog, ServerAct } from '../../app/ui';
import { Later } from '../../app/Later';
import { UnitDrawing, type PlaceMark } from '../../drawing/UnitDrawing';
import { VerdictMark } from '../../marks/VerdictMark';
import { FuseMark } from '../../marks/WireSwatch';
import { Answer, H3 } from '../Station';
import { promise } from '../words';
import { Rests } from '../known/Rests';
import { useOrder } from '../useOrder';
import { Lots } from './Lots';
import { SignaturePad } from './SignaturePad';

const MARK: Record<Proof['state'], Verdict> = {
  proved: 'holds',
  overridden: 'tight',
  missing: 'unknown',
  skipped: 'unknown',
  failing: 'fails',
};

export function Handover() {
  const { order, sheets, assessment, settings, record, ask } = useOrder();
  const person = usePerson();
  const [passing, setPassing] = useState<Proof | null>(null);
  const [sealing, setSealing] = useState(false);
  const { open: points } = assessment;
  const seal = () => void ask({ type: 'order.sealed', seen: points.length });
  const askToSeal = () => (points.length ? setSealing(true) : seal());
  const { proofs, blocks, wiring } = assessment;
  const sealed = order.status === 'sealed';
  const open = proofs.filter((p) => p.state !== 'proved' && p.state !== 'overridden');
  const feeds = [...new Map(wiring.circuits.filter((c) => c.feed).map((c) => [c.feed!.id, c.feed!])).values()];
  const marks: PlaceMark[] = feeds.map((f, i) => ({ place: f.place, text: String.fromCharCode(65 + i), tone: 'accent', title: f.name }));
  const failing = proofs.some((p) => p.state === 'failing');
  return (
    <>
      <Answer
        verdict={sealed ? 'holds' : failing ? 'fails' : blocks.length ? 'unknown' : 'holds'}
        drawing={
          <UnitDrawing
            model={sheets.model}
            marks={marks}
            wires={wiring.circuits.filter((c) => c.route).map((c) => ({ id: c.id, places: c.route!.places, colour: c.circuit.colour }))}
          />
        }
      >
        {sealed
          ? `Handed over ${promise(order.sealedAt!)} and sealed.`
          : blocks.length
            ? `Not yet: ${blocks[0]}${blocks.length > 1 ? `, and ${blocks.length - 1} more` : ''}.`
            : 'Proved and signed: ready to hand over.'}
      </Answer>
      <Rests />
      <Later>
        <chakra.div display="flex" flexWrap="wrap" gap="8px" mb="8px">
          {[
            ['pdf', 'Sheet, PDF'],
            ['json', 'JSON'],
            ['csv', 'CSV'],
          ].map(([ext, word]) => (
            <FileLink
              key={ext}
              href={`/api/orders/${order.id}/hand-over.${ext}`}
              target={ext === 'pdf' ? '_blank' : undefined}
              rel="noreferrer"
            >
              <FileDown size={18} aria-hidden /> {word}
            </FileLink>
          ))}
          {(['owner', 'appendix'] as const).map((which) => (
            <PaperLink key={which} to={`/orders/${order.id}/paper/${which}`}>
              <Printer size={18} aria-hidden /> {which === 'owner' ? 'Print owner’s page' : 'Print appendix'}
            </PaperLink>
          ))}
        </chakra.div>

        {feeds.length > 0 && (
          <>
            <H3>Owner’s map: feeds and fuses</H3>
            <chakra.table width="100%" borderCollapse="collapse">
              <tbody>
                {feeds.map((f, i) => (
                  <chakra.tr key={f.id} borderTopWidth="1px" borderColor="rule">
                    <chakra.td py="6px" width="36px" color="accent" fontWeight={700}>
                      {String.fromCharCode(65 + i)}
                    </chakra.td>
                    <chakra.td py="6px">{f.name}</chakra.td>
                    <chakra.td py="6px">
                      <chakra.div display="flex" flexWrap="wrap" gap="4px 20px">
                        {wiring.circuits
                          .filter((c) => c.feed?.id === f.id)
                          .map((c) => (
                            <chakra.span key={c.id} display="inline-flex" gap="8px">
                              {c.circuit.name}{' '}
                              {c.fuseA !== null && <FuseMark ratingA={c.fuseA} colour={c.fuseColour!} volts={c.fuseKind?.ratedV ?? null} />}
                            </chakra.span>
                          ))}
                      </chakra.div>
                    </chakra.td>
                  </chakra.tr>
                ))}
              </tbody>
            </chakra.table>
          </>
        )}

        <H3>
          Proofs, {proofs.length - open.length} of {proofs.length}
        </H3>
        <chakra.ul listStyleType="none" p={0} borderTopWidth="1px" borderColor="rule">
          {[...open, ...proofs.filter((p) => !open.includes(p))].map((p) => (
            <chakra.li
              key={p.step.id}
              display="flex"
              alignItems="center"
              gap="12px"
              py="6px"
              minH="48px"
              borderBottomWidth="1px"
              borderColor="rule"
            >
              <VerdictMark verdict={MARK[p.state]} />
              <chakra.span flex="1">
                <Link to={`/orders/${order.id}/bench?step=${encodeURIComponent(p.step.id)}`}>
                  <chakra.span fontWeight={600} textDecoration="underline" textDecorationColor="rule">
                    {p.step.title}
                  </chakra.span>
                </Link>{' '}
                <chakra.span color="quiet">{p.says}</chakra.span>
              </chakra.span>
              {!sealed && p.state !== 'proved' && p.state !== 'overridden' && may(person.role, 'proof.overridden') && (
                <Act onClick={() => setPassing(p)}>Pass it as lead</Act>
              )}
            </chakra.li>
          ))}
        </chakra.ul>
        {open.length > 0 && !sealed && !may(person.role, 'proof.overridden') && (
          <chakra.p color="quiet" mt="6px">
            What is not proved can only be passed by a lead, with a reason.
          </chakra.p>
        )}

        {(!sealed || order.lots) && (
          <section aria-label="Serial and lot numbers">
            <H3>Serial and lot numbers</H3>
            <Lots />
          </section>
        )}

        <H3>For the owner, and cautions</H3>
        <chakra.ul pl="20px" listStyleType="disc">
          {[...sheets.kits.flatMap((k) => k.owner), ...new Set(sheets.kits.flatMap((k) => k.cautions)), LOCAL_CODE].map((t) => (
            <li key={t}>{t}</li>
          ))}
        </chakra.ul>

        <H3>Received</H3>
        {order.signature ? (
          <Signed name={order.signature.name} strokes={order.signature.strokes} at={order.signature.at} />
        ) : (
          !sealed && (
            <SignForm
              orderId={order.id}
              owner={order.owner}
              onSign={(name, strokes) => record({ type: 'handover.signed', name, strokes })}
              onSeal={blocks.length === 1 ? askToSeal : null}
            />
          )
        )}
        {!sealed ? (
          <chakra.div mt="16px" hidden={!order.signature && blocks.length === 1}>
            <ServerAct look="main" big disabled={blocks.length > 0} onClick={askToSeal}>
              <Lock size={20} aria-hidden /> Hand over and seal
            </ServerAct>
            {points.length > 0 && blocks.length === 0 && (
              <chakra.p color="quiet" mt="6px">
                {points.length} {points.length === 1 ? 'point is' : 'points are'} open: you are shown {points.length === 1 ? 'it' : 'them'}{' '}
                first.
              </chakra.p>
            )}
            {blocks.length > 0 && (
              <chakra.ul mt="8px" pl="20px" listStyleType="disc" color="quiet">
                {blocks.slice(0, 6).map((b) => (
                  <li key={b}>{b}</li>
                ))}
                {blocks.length > 6 && <li>and {blocks.length - 6} more</li>}
              </chakra.ul>
            )}
          </chakra.div>
        ) : (
          <Additions />
        )}
        <FormDialog
          open={sealing}
          title={`Seal with ${points.length} open ${points.length === 1 ? 'point' : 'points'}?`}
          action="Seal all the same"
          ready
          onClose={() => setSealing(false)}
          onDone={() => (setSealing(false), seal())}
        >
          <chakra.p mb="8px">This stands on the sheet as it is now, and a sealed order is not opened again.</chakra.p>
          <chakra.ul listStyleType="none" p={0} maxH="46vh" overflowY="auto" tabIndex={0} aria-label="Open points">
            {points.map((p) => (
              <chakra.li key={p.says} display="flex" gap="10px" py="5px" borderTopWidth="1px" borderColor="rule" fontSize="15px">
                <VerdictMark verdict={p.verdict} size={20} />
                <span>{sayInUnits(p.says, settings.units)}</span>
              </chakra.li>
            ))}
          </chakra.ul>
        </FormDialog>
        <ReasonDialog
          open={passing !== null}
          title={`Pass “${passing?.step.title ?? ''}” without proof`}
          text="This goes on the sheet with your name."
          action="Pass it"
          onClose={() => setPassing(null)}
          onReason={(reason) => {
            record({ type: 'proof.overridden', proof: passing!.step.id, reason });
            setPassing(null);
          }}
        />
      </Later>
    </>
  );
}

function Signed({ name, strokes, at }: { name: string; strokes: string; at: string }) {
  return (
    <chakra.div>
      <chakra.svg viewBox="0 0 600 200" width="300px" height="100px" color="ink" role="img" aria-label={`Signature of ${name}`}>
        <path d={strokes} fill="none" stroke="currentColor" strokeWidth="4" strokeLinecap="round" strokeLinejoin="round" />
      </chakra.svg>
      <p>
        {name}, {promise(at)}
      </p>
    </chakra.div>
  );
}

function SignForm({
  orderId,
  owner,
  onSign,
  onSeal,
}: {
  orderId: string;
  owner: string;
  onSign: (name: string, strokes: string) => boolean;
  /** what follows where nothing but the signature was missing; null: more is */
  onSeal: (() => void) | null;
}) {
  const [name, setName] = useDraft(`${orderId}.signer`);
  const [strokes, setStrokes] = useState('');
  const keep = useCallback((s: string) => setStrokes(s), []);
  const signer = (name ?? owner).trim();
  const signable = strokes !== '' && signer !== '';
  const sign = () => {
    const kept = onSign(signer, strokes);
    if (kept) setName(null);
    return kept;
  };
  return (
    <chakra.div display="grid" gap="10px" maxW="480px">
      <Labelled label="Name of who receives it" id="signer">
        <Entry id="signer" value={name ?? owner} maxLength={80} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <SignaturePad onChange={keep} />
      <chakra.div display="flex" gap="10px" flexWrap="wrap">
        {onSeal && (
          <ServerAct look="main" big disabled={!signable} onClick={() => sign() && onSeal()}>
            <Lock size={20} aria-hidden /> Hand over and seal
          </ServerAct>
        )}
        <Act big={!!onSeal} disabled={!signable} onClick={sign}>
          Record the signature
        </Act>
      </chakra.div>
    </chakra.div>
  );
}

function Additions() {
  const { order, record } = useOrder();
  const [text, setText] = useDraft(`${order.id}.addition`);
  return (
    <>
      <H3>Additions since</H3>
      {order.additions.map((a, i) => (
        <p key={i}>
          <chakra.span color="quiet">
            {promise(a.at)}, {a.by}:
          </chakra.span>{' '}
          {a.text}
        </p>
      ))}
      <chakra.div display="grid" gap="8px" maxW="560px" mt="8px">
        <Labelled label="Add something, dated and under your name" id="addition">
          <Lines id="addition" value={text ?? ''} maxLength={1000} onChange={(e) => setText(e.target.value)} />
        </Labelled>
        <Act
          justifySelf="start"
          disabled={!text?.trim()}
          onClick={() => record({ type: 'addition.made', text: text!.trim() }) && setText(null)}
        >
          Add
        </Act>
      </chakra.div>
    </>
  );
}
