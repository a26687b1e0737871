// The environment of the server's programs is read here and in their main files only.
export function env(name: string): string {
  const value = process.env[name];
  if (value === undefined) throw new Error(`${name} is not set; run npm start`);
  return value;
}
