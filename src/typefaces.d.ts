declare module "*.woff2" {
  /** Address under which the server gives the file out. */
  const address: string;
  export default address;
}
