/** What a drive is used for, in words. */
export const ROLE_WORDS = { working: 'first copies', backup: 'second copies', edit: 'for editing' } as const;
