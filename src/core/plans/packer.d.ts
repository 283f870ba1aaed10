/** The package's main file is no module for Node; the one next to it is, and has the same types. */
declare module "maxrects-packer/dist/maxrects-packer.mjs" {
  export * from "maxrects-packer";
}
