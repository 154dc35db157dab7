/// <reference types="vite/client" />
declare module '*.asc?raw' {
  const text: string;
  export default text;
}
