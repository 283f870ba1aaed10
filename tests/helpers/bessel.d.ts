declare module "bessel" {
  const bessel: { besselk: (x: number, order: number) => number };
  export default bessel;
}
