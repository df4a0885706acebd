import { chakra } from '@chakra-ui/react';
import { ArrowLeft, Printer } from 'lucide-react';
import type { ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { Link, useParams } from 'react-router';
import { Act } from '../../app/ui';
import { useOrder } from '../useOrder';
import { Appendix } from './Appendix';
import { OwnersPage } from './OwnersPage';
import { PlanPaper } from './PlanPaper';

const PAPERS = {
  owner: { title: 'Owner’s page', back: 'handover', of: OwnersPage },
  appendix: { title: 'For the next installer', back: 'handover', of: Appendix },
  plan: { title: 'The work in its order', back: 'plan', of: PlanPaper },
} as const;

/**
 * A paper of an order as the browser prints it, made on this device: it needs no server. What is on the screen beside it does not
 * go on paper.
 */
export function Paper() {
  const { which } = useParams();
  const { order } = useOrder();
  const paper = PAPERS[which as keyof typeof PAPERS] ?? PAPERS.owner;
  const Content = paper.of;
  return createPortal(
    <chakra.div
      data-paper
      // paper is white, whatever the screen is
      className="light"
      position="fixed"
      inset={0}
      overflowY="auto"
      bg="raised"
      color="ink"
      zIndex={20}
      css={{ '@media print': { position: 'static', overflow: 'visible', background: 'white', color: 'black' } }}
    >
      <chakra.div
        display="flex"
        gap="10px"
        alignItems="center"
        p="10px 16px"
        borderBottomWidth="1px"
        borderColor="rule"
        css={{ '@media print': { display: 'none' } }}
      >
        <Link to={`/orders/${order.id}/${paper.back}`}>
          <Act as="span">
            <ArrowLeft size={18} aria-hidden /> Back
          </Act>
        </Link>
        <Act look="main" onClick={() => window.print()}>
          <Printer size={18} aria-hidden /> Print
        </Act>
        <chakra.span color="quiet">Made on this device, as the order stands here.</chakra.span>
      </chakra.div>
      <chakra.article maxW="190mm" mx="auto" p="16px" fontSize="13px" lineHeight={1.35} css={{ '@media print': { padding: 0 } }}>
        <Content title={paper.title} />
      </chakra.article>
    </chakra.div>,
    document.body,
  );
}

/** What stands at the top of every paper. */
export function Top({ title, children }: { title: string; children?: ReactNode }) {
  const { order, sheets, settings } = useOrder();
  const { model } = sheets;
  const build = model.builds.find((b) => b.id === order.unit.build)?.name ?? order.unit.build;
  return (
    <chakra.header display="grid" gridTemplateColumns="minmax(0, 1fr) auto" gap="16px" mb="10px">
      <div>
        <chakra.h1 fontSize="20px">
          {model.maker} {model.name}
        </chakra.h1>
        <p>
          {title}. {order.unit.year}, {build}, {model.electrical.systemV} V
        </p>
        <chakra.p fontFamily="mono">{order.unit.identity || 'no number'}</chakra.p>
        {children}
      </div>
      <chakra.div textAlign="right">
        <b>Order {order.number}</b>
        <p>{settings.shop}</p>
        <p>For {order.owner}</p>
        {order.trial && <p>No customer’s unit: figures may be simulated</p>}
      </chakra.div>
    </chakra.header>
  );
}

export const Head = chakra('h2', {
  base: { fontSize: '15px', mt: '10px', mb: '2px', borderBottomWidth: '1px', borderColor: 'ink', breakAfter: 'avoid' },
});

/** A table that keeps its head on every sheet. */
export function Table({ head, rows }: { head: readonly string[]; rows: readonly (readonly ReactNode[])[] }) {
  return (
    <chakra.table width="100%" borderCollapse="collapse" css={{ '& td, & th': { padding: '2px 8px 2px 0', verticalAlign: 'top' } }}>
      <thead>
        <tr>
          {head.map((h, i) => (
            <chakra.th key={i} textAlign="left" fontWeight={400} color="quiet">
              {h}
            </chakra.th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((r, i) => (
          <chakra.tr key={i} borderTopWidth="1px" borderColor="rule" css={{ breakInside: 'avoid' }}>
            {r.map((c, j) => (
              <td key={j}>{c}</td>
            ))}
          </chakra.tr>
        ))}
      </tbody>
    </chakra.table>
  );
}
