const src = (await import('node:fs')).readFileSync('/work/main/scripts/zz-prof.ts', 'utf8');
void src;
process.env.N = '60';
process.env.MODE = 'keep';
await import('./zz-prof');
