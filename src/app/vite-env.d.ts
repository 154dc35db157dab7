/// <reference types="vite/client" />
/// <reference types="vite-plugin-pwa/client" />
declare module '*.asc?raw' {
  const text: string;
  export default text;
}
