// The content-security policy forbids code made from text; Zod does without it when told so before it is fetched.
Object.assign(globalThis, { __zod_globalConfig: { jitless: true } });
