/** What a drive is used for, in words. */
export const ROLE_WORDS = { working: 'main copies', backup: 'backup copies', edit: 'for editing' } as const;
export type Role = keyof typeof ROLE_WORDS;
