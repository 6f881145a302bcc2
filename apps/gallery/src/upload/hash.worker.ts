import { answerHashes } from '@arkiv/sending/hashing';

answerHashes();
