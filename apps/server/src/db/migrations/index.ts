import { Beginning1795000000000 } from './1795000000000-beginning';
import { Keeping1795400000000 } from './1795400000000-keeping';
import { Devices1796000000000 } from './1796000000000-devices';
import { Kinds1797000000000 } from './1797000000000-kinds';
import { Ground1799000000000 } from './1799000000000-ground';
import { Journal1800000000000 } from './1800000000000-journal';
import { Parts1801000000000 } from './1801000000000-parts';
import { Features1802000000000 } from './1802000000000-features';
import { Piles1803000000000 } from './1803000000000-piles';
import { Passes1804000000000 } from './1804000000000-passes';
import { Bin1805000000000 } from './1805000000000-bin';
import { Note1806000000000 } from './1806000000000-note';
import { Measured1807000000000 } from './1807000000000-measured';
import { PassParts1808000000000 } from './1808000000000-pass-parts';
import { Takes1809000000000 } from './1809000000000-takes';
import { Measures1810000000000 } from './1810000000000-measures';
import { BracketFacts1811000000000 } from './1811000000000-bracketFacts';
import { Hashes1812000000000 } from './1812000000000-hashes';
import { Words1813000000000 } from './1813000000000-words';
import { Texts1814000000000 } from './1814000000000-texts';
import { Vocabulary1815000000000 } from './1815000000000-vocabulary';
import { Albums1816000000000 } from './1816000000000-albums';
import { ChosenLeads1817000000000 } from './1817000000000-chosen-leads';
import { Derived1818000000000 } from './1818000000000-derived';
import { FolderLeads1819000000000 } from './1819000000000-folder-leads';
import { Stages1820000000000 } from './1820000000000-stages';
import { Handed1821000000000 } from './1821000000000-handed';
import { HandedTo1822000000000 } from './1822000000000-handed-to';
import { SaidInside1823000000000 } from './1823000000000-said-inside';
import { Returns1824000000000 } from './1824000000000-returns';
import { Specs1825000000000 } from './1825000000000-specs';
import { SetRules1826000000000 } from './1826000000000-set-rules';
import { RemadeSets1827000000000 } from './1827000000000-remade-sets';
import { Foreign1828000000000 } from './1828000000000-foreign';
import { Postings1829000000000 } from './1829000000000-postings';
import { Finishing1830000000000 } from './1830000000000-finishing';
import { Destinations1831000000000 } from './1831000000000-destinations';
import { Galleries1832000000000 } from './1832000000000-galleries';
import { Messages1833000000000 } from './1833000000000-messages';
import { Records1834000000000 } from './1834000000000-records';
import { WatchRules1835000000000 } from './1835000000000-watchRules';
import { Adopted1836000000000 } from './1836000000000-adopted';
import { Trail1837000000000 } from './1837000000000-trail';
import { UploadLinks1838000000000 } from './1838000000000-uploadLinks';
import { HeldBy1839000000000 } from './1839000000000-heldBy';
import { Strayed1840000000000 } from './1840000000000-strayed';
import { SaidAs1841000000000 } from './1841000000000-saidAs';
import { KeptSpace1842000000000 } from './1842000000000-keptSpace';
import { Keyworded1843000000000 } from './1843000000000-keyworded';
import { SaidBeside1844000000000 } from './1844000000000-saidBeside';
import { WorkFolder1845000000000 } from './1845000000000-workFolder';
import { ArrangedPasses1846000000000 } from './1846000000000-arranged-passes';
import { Placing1847000000000 } from './1847000000000-placing';
import { Seen1798000000000 } from './1798000000000-seen';

/** In order; a migration that has been released is never changed. */
export const MIGRATIONS = [
  Beginning1795000000000,
  Keeping1795400000000,
  Devices1796000000000,
  Kinds1797000000000,
  Seen1798000000000,
  Ground1799000000000,
  Journal1800000000000,
  Parts1801000000000,
  Features1802000000000,
  Piles1803000000000,
  Passes1804000000000,
  Bin1805000000000,
  Note1806000000000,
  Measured1807000000000,
  PassParts1808000000000,
  Takes1809000000000,
  Measures1810000000000,
  BracketFacts1811000000000,
  Hashes1812000000000,
  Words1813000000000,
  Texts1814000000000,
  Vocabulary1815000000000,
  Albums1816000000000,
  ChosenLeads1817000000000,
  Derived1818000000000,
  FolderLeads1819000000000,
  Stages1820000000000,
  Handed1821000000000,
  HandedTo1822000000000,
  SaidInside1823000000000,
  Returns1824000000000,
  Specs1825000000000,
  SetRules1826000000000,
  RemadeSets1827000000000,
  Foreign1828000000000,
  Postings1829000000000,
  Finishing1830000000000,
  Destinations1831000000000,
  Galleries1832000000000,
  Messages1833000000000,
  Records1834000000000,
  WatchRules1835000000000,
  Adopted1836000000000,
  Trail1837000000000,
  UploadLinks1838000000000,
  HeldBy1839000000000,
  Strayed1840000000000,
  SaidAs1841000000000,
  KeptSpace1842000000000,
  Keyworded1843000000000,
  SaidBeside1844000000000,
  WorkFolder1845000000000,
  ArrangedPasses1846000000000,
  Placing1847000000000,
];
