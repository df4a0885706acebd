import { chakra } from '@chakra-ui/react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Copy, FileDown, FileUp, PackagePlus } from 'lucide-react';
import { useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { may } from '#core/people/permissions';
import { readSheet } from '#core/sheets/read';
import type { Kit } from '#model/kit';
import { call, queries, type ApiError } from '../app/api';
import { usePerson } from '../app/context';
import { Act, Entry, FileLink, PaperLink, Sheet } from '../app/ui';
import { KitSheet } from './KitSheet';
import { BundleIn, type Compared } from './BundleIn';
import { useBegunKits } from './kit/begun-kits';
import { BeginBox } from './kit/BeginBox';
import { ModelSheet } from './ModelSheet';
import { PackSheet } from './PackSheet';
import { Standing } from './Standing';

type Problems = {
  file: string;
  text: string;
  /** the rest of a rule pack was taken in all the same */ taken?: boolean;
  list: { line: number; field: string; message: string }[];
};

/** Models, kits and rule packs: read, exported and imported, one file a sheet. */
export function Sheets() {
  const params = useParams();
  const { data } = useQuery(queries.sheets);
  // it opens on the first model, not on nothing
  const kind = params.kind ?? 'model';
  const id = params.id ?? data?.models[0]?.ref.id;
  const client = useQueryClient();
  const person = usePerson();
  const navigate = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const [problems, setProblems] = useState<Problems | null>(null);
  const [said, setSaid] = useState('');
  const [compared, setCompared] = useState<Compared | null>(null);
  const [search, setSearch] = useState('');
  const begun = useBegunKits();
  const [beginning, setBeginning] = useState<{ from: Kit | null } | null>(null);
  const groups = [
    {
      kind: 'model',
      word: 'Models',
      list: data?.models ?? [],
      name: (s: { sheet: { maker?: string; name: string } }) => `${s.sheet.maker} ${s.sheet.name}`,
    },
    {
      kind: 'kit',
      word: 'Kits',
      list: [...(data?.kits ?? [])].sort((a, b) => a.sheet.name.localeCompare(b.sheet.name)),
      name: (s: { sheet: { maker?: string; name: string } }) => `${s.sheet.name}`,
    },
    { kind: 'rules', word: 'Rule packs', list: data?.packs ?? [], name: (s: { sheet: { name: string } }) => s.sheet.name },
  ];
  const take = async (f: File) => {
    setProblems(null);
    setCompared(null);
    setSaid('');
    const refused = (e: unknown, text: string) => {
      const t = e as ApiError;
      setProblems({ file: f.name, text, list: t.body.problems ?? [{ line: 0, field: '', message: t.message }] });
    };
    if (/\.zip$/i.test(f.name)) {
      const bytes = new Blob([f], { type: 'application/zip' });
      return call<Compared>('/api/sheets/compare', { method: 'POST', bytes }).then(setCompared, (e) => refused(e, ''));
    }
    const text = await f.text();
    const read = readSheet(text);
    if (!read.sheet) return setProblems({ file: f.name, text, list: read.problems });
    try {
      const done = await call<{ kind: string; ref: { id: string; revision: number }; changed: boolean }>('/api/sheets', { text });
      await client.invalidateQueries({ queryKey: ['sheets'] });
      const bad = read.problems.length;
      if (bad) setProblems({ file: f.name, text, list: read.problems, taken: true });
      setSaid(
        done.changed
          ? `${read.sheet.sheet.name} is in, revision ${done.ref.revision}. Orders already begun keep the revision they began with.`
          : `${read.sheet.sheet.name} is the same as revision ${done.ref.revision}: nothing changed.`,
      );
      navigate(`/sheets/${done.kind}/${done.ref.id}`);
    } catch (e) {
      refused(e, text);
    }
  };
  const models = data?.models ?? [];
  /** Whether a sheet has every word that is searched for in its names, or in what a box is for. */
  const wanted = ({ sheet }: { sheet: { name: string; maker?: string; summary?: string } }) => {
    const text = `${sheet.maker ?? ''} ${sheet.name} ${sheet.summary ?? ''}`.toLowerCase();
    return search
      .toLowerCase()
      .split(/\s+/)
      .every((w) => text.includes(w));
  };
  const taken = (data?.kits ?? []).map((k) => k.ref.id);
  const current = groups.find((g) => g.kind === kind)?.list.find((s) => s.ref.id === id);
  return (
    <chakra.main height="100%" display="grid" gridTemplateColumns="280px minmax(0, 1fr)">
      <chakra.nav aria-label="Sheets" overflowY="auto" borderRightWidth="1px" borderColor="rule" p="16px">
        <chakra.h1 fontSize="22px" mb="10px">
          Sheets
        </chakra.h1>
        <input
          ref={file}
          type="file"
          accept=".json,.zip,application/json,application/zip"
          hidden
          aria-label="Sheet file"
          onChange={(e) => {
            const f = e.target.files?.[0];
            if (f) void take(f);
            e.target.value = '';
          }}
        />
        {may(person.role, 'sheets.import') && (
          <Act width="100%" onClick={() => file.current?.click()}>
            <FileUp size={18} aria-hidden /> Import sheets
          </Act>
        )}
        {/* there from the first moment: what stands under it does not move when the sheets arrive */}
        {may(person.role, 'sheets.import') && (
          <Act width="100%" mt="8px" disabled={!models.length} onClick={() => setBeginning({ from: null })}>
            <PackagePlus size={18} aria-hidden /> A new box
          </Act>
        )}
        <FileLink href="/api/sheets.zip" download mt="8px" width="100%" justifyContent="center">
          <FileDown size={18} aria-hidden /> All as one file
        </FileLink>
        <Entry
          mt="8px"
          type="search"
          aria-label="Search sheets"
          placeholder="Search"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        {begun.list.length > 0 && (
          <chakra.section mt="14px">
            <chakra.h2 fontSize="15px" color="quiet">
              Begun, not published
            </chakra.h2>
            {begun.list.map((b) => (
              <Link key={b.base.id} to={`/sheets/kit/${b.base.id}/edit`}>
                <chakra.span display="block" py="7px" px="8px" borderRadius="kadro" _hover={{ bg: 'raised' }}>
                  {b.base.name}
                </chakra.span>
              </Link>
            ))}
          </chakra.section>
        )}
        {groups.map((g) => (
          <chakra.section key={g.kind} mt="14px">
            <chakra.h2 fontSize="15px" color="quiet">
              {g.word}
            </chakra.h2>
            {(g.list as { ref: { id: string }; sheet: { name: string } }[]).filter(wanted).map((s) => (
              <Link
                key={s.ref.id}
                to={`/sheets/${g.kind}/${s.ref.id}`}
                aria-current={kind === g.kind && id === s.ref.id ? 'page' : undefined}
              >
                <chakra.span
                  display="block"
                  py="7px"
                  px="8px"
                  borderRadius="kadro"
                  bg={kind === g.kind && id === s.ref.id ? 'accentWash' : undefined}
                  _hover={{ bg: 'raised' }}
                >
                  {g.name(s as never)}
                  {(s as { retired?: true }).retired ? ', not offered' : ''}
                </chakra.span>
              </Link>
            ))}
          </chakra.section>
        ))}
      </chakra.nav>
      {beginning && (
        <BeginBox
          from={beginning.from}
          models={models.map((m) => m.sheet)}
          onClose={() => setBeginning(null)}
          onBegun={(maker, name, on) => {
            const made = beginning.from ? begun.copy(beginning.from, name, on.id, taken) : begun.begin(maker, name, on, taken);
            navigate(`/sheets/kit/${made.id}/edit`);
          }}
        />
      )}
      <chakra.div overflowY="auto" p="20px">
        {said && (
          <chakra.p role="status" mb="12px" color="holds" fontWeight={600}>
            {said}
          </chakra.p>
        )}
        {problems && (
          <Sheet mb="16px" borderColor="fails" role="alert">
            <chakra.h2 fontSize="18px" mb="6px">
              {problems.file}: {problems.list.length} {problems.list.length === 1 ? 'thing' : 'things'} to mend.{' '}
              {problems.taken ? 'The rest was taken in; these items are not judged.' : 'Nothing was taken in.'}
            </chakra.h2>
            <chakra.table width="100%">
              <tbody>
                {problems.list.map((p, i) => (
                  <chakra.tr key={i} borderTopWidth="1px" borderColor="rule" verticalAlign="top">
                    <chakra.td py="5px" pr="12px" fontFamily="mono" whiteSpace="nowrap">
                      {p.line ? `line ${p.line}` : ''}
                    </chakra.td>
                    <chakra.td py="5px" pr="12px" fontFamily="mono">
                      {p.field}
                    </chakra.td>
                    <chakra.td py="5px">
                      {p.message}
                      {p.line > 0 && (
                        <chakra.code
                          display="block"
                          fontFamily="mono"
                          fontSize="13px"
                          color="quiet"
                          overflow="hidden"
                          textOverflow="ellipsis"
                        >
                          {problems.text.split('\n')[p.line - 1]?.trim().slice(0, 110)}
                        </chakra.code>
                      )}
                    </chakra.td>
                  </chakra.tr>
                ))}
              </tbody>
            </chakra.table>
          </Sheet>
        )}
        {compared && (
          <BundleIn
            key={compared.at}
            compared={compared}
            onDone={(says) => {
              setCompared(null);
              setSaid(says);
            }}
          />
        )}
        {!current && !problems && (
          <chakra.p color="quiet">
            Choose a sheet on the left. The format is described in docs/formats.md; an exported sheet is the best example.
          </chakra.p>
        )}
        {current && (
          <>
            <chakra.div display="flex" alignItems="center" gap="12px" mb="10px">
              <chakra.h1 fontSize="24px" flex="1">
                {'maker' in current.sheet ? `${current.sheet.maker} ${current.sheet.name}` : current.sheet.name}
              </chakra.h1>
              <chakra.span color="quiet">
                revision {current.ref.revision}
                {current.reason ? `, ${current.by}: ${current.reason}` : ''}
              </chakra.span>
              {kind !== 'rules' && may(person.role, 'sheets.import') && <PaperLink to={`/sheets/${kind}/${id}/edit`}>Edit</PaperLink>}
              {kind === 'kit' && may(person.role, 'sheets.import') && models.length > 0 && (
                <Act onClick={() => setBeginning({ from: current.sheet as Kit })}>
                  <Copy size={18} aria-hidden /> Copy
                </Act>
              )}
              <FileLink href={`/api/sheets/${kind}/${id}`} download>
                <FileDown size={18} aria-hidden /> Export
              </FileLink>
            </chakra.div>
            {kind !== 'rules' && (
              <Standing kind={kind as 'model' | 'kit'} id={id!} revision={current.ref.revision} retired={!!current.retired} />
            )}
            {kind === 'model' && <ModelSheet model={current.sheet as never} revision={current.ref.revision} />}
            {kind === 'kit' && (
              <KitSheet kit={current.sheet as never} modelName={(m) => models.find((x) => x.ref.id === m)?.sheet.name ?? m} />
            )}
            {kind === 'rules' && <PackSheet key={id} pack={current.sheet as never} ids={(data?.packs ?? []).map((x) => x.ref.id)} />}
          </>
        )}
      </chakra.div>
    </chakra.main>
  );
}
