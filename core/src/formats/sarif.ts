import type { Program } from '../program/program.ts';
import type { Finding, Severity } from '../walk/finding.ts';
import { rules } from '../walk/rules/index.ts';

/** Findings as SARIF 2.1.0 (OASIS). */
export function toSarif(program: Program, findings: readonly Finding[], file: string, version: string): object {
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: {
          driver: {
            name: 'Zany Thread',
            version,
            rules: rules.map((rule) => ({ id: rule.id, shortDescription: { text: rule.meaning } })),
          },
        },
        results: findings.map((found) => result(program, found, file)),
      },
    ],
  };
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
});

/** `Sailings / Choose 10:40`. */
export function placeName(program: Program, { place }: Pick<Finding, 'place'>): string {
  const scene = place.scene === null ? program.piece.head.name : (program.piece.scenes.get(place.scene)?.name ?? place.scene);
  const layer = place.layer === undefined ? undefined : program.piece.layers.get(place.layer)?.name;
  return [scene, layer].filter(Boolean).join(' / ');
}
