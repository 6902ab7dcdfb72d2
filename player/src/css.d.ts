declare module '*.css?inline' {
  const text: string;
  export default text;
}
