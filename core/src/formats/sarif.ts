import type { Program } from '../program/program.ts';
import type { Audit } from '../walk/audit.ts';
import { eventWords, routeWords } from '../walk/event-words.ts';
import type { Exploration } from '../walk/exploration.ts';
import type { Finding, Severity } from '../walk/finding.ts';
import { rules } from '../walk/rules/index.ts';

/**
 * Loose ends as SARIF 2.1.0 (OASIS): each with its route as a code flow, what is set aside as suppressed with the reason, and what was
 * cut of exploring as a notification.
 */
export function toSarif(program: Program, { findings, aside, exploration }: Reported, file: string, version: string): object {
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: {
          driver: {
            name: 'Zany Thread',
            version,
            rules: rules.map(({ id, meaning, spares }) => ({
              id,
              shortDescription: { text: meaning },
              help: { text: `Nothing is said of: ${spares}.` },
            })),
          },
        },
        invocations: [
          {
            executionSuccessful: true,
            toolExecutionNotifications:
              exploration.cut === null
                ? []
                : [{ level: 'warning', descriptor: { id: 'explored-in-part' }, message: { text: `Explored in part: ${exploration.cut}.` } }],
          },
        ],
        results: [
          ...findings.map((found) => result(program, found, file)),
          ...aside.map((found) => ({
            ...result(program, found, file),
            suppressions: [{ kind: 'external', status: 'accepted', justification: found.reason }],
          })),
        ],
      },
    ],
  };
}

/** What was found, and how far it was looked for. */
export type Reported = Pick<Audit, 'findings' | 'aside'> & {
  readonly exploration: Pick<Exploration, 'cut' | 'count' | 'moves'>;
  /** What those who walked it said, where anybody did. */
  readonly said?: readonly SaidOfThread[];
};

/** What somebody said of a thread that he walked, in words. */
export interface SaidOfThread {
  readonly line: string;
  readonly place: string;
  readonly verdict: string;
  /** Whether it did what it should; null where that was not said. */
  readonly isRight: boolean | null;
  readonly note: string;
  readonly by: string;
}

const levels: Record<Severity, 'error' | 'warning' | 'note'> = { must: 'error', look: 'warning', note: 'note' };

const result = (program: Program, found: Finding, file: string) => ({
  ruleId: found.rule,
  ruleIndex: rules.findIndex((rule) => rule.id === found.rule),
  level: levels[found.severity],
  message: { text: `${found.title}. ${found.sentence}` },
  locations: [
    { physicalLocation: { artifactLocation: { uri: encodeURI(file) } }, logicalLocations: [{ fullyQualifiedName: placeName(program, found) }] },
  ],
  partialFingerprints: { place: found.id },
  ...(found.route && {
    codeFlows: [
      {
        message: { text: routeWords(program, found.route.from, found.route.events) },
        threadFlows: [{ locations: flow(program, found.route, file) }],
      },
    ],
  }),
});

/** The route, an event at each place. */
const flow = (program: Program, { from, events }: NonNullable<Finding['route']>, file: string) =>
  [program.piece.scenes.get(from)?.name ?? from, ...events.map((event) => eventWords(program, event))].map((text, i) => ({
    executionOrder: i + 1,
    location: { physicalLocation: { artifactLocation: { uri: encodeURI(file) } }, message: { text } },
  }));

/** `Sailings / Choose 10:40`. */
export function placeName(program: Program, { place }: Pick<Finding, 'place'>): string {
  const scene = place.scene === null ? program.piece.head.name : (program.piece.scenes.get(place.scene)?.name ?? place.scene);
  const layer = place.layer === undefined ? undefined : program.piece.layers.get(place.layer)?.name;
  return [scene, layer].filter(Boolean).join(' / ');
}
