import { many } from '../../data/format';
import type { Api } from '../../data/http';

/** What taking in shoots of another archive does. */
export function carriedWords(shoots: readonly Pick<Api['CarriedShootDto'], 'known'>[]): string {
  const known = shoots.filter((shoot) => shoot.known).length;
  const fresh = shoots.length - known;
  const said = [
    ...(fresh > 0
      ? [`${many(fresh, 'shoot comes', 'shoots come')} here with all that was decided and where it came from`]
      : []),
    ...(known > 0
      ? [
          `what was decided elsewhere of ${many(known, 'shoot')} that ${known === 1 ? 'is' : 'are'} here comes to what was decided here, the later of both holds`,
        ]
      : []),
  ].join('; ');
  return `${said[0]!.toUpperCase()}${said.slice(1)}.`;
}
