/** A material as stock is bought. */
export interface StockMaterial {
  name: string;
  /** kg/m3. */
  density: number;
  /** 0xRRGGBB, muted, as it is shown. */
  colour: number;
  /** Usual thicknesses of its plates, millimetres. */
  plates: readonly number[];
  /** A usual price, for a first estimate alone: money to a kilogram. */
  price: number;
}

const STEEL_PLATES = [1, 1.5, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50];
const LIGHT_PLATES = [1, 1.5, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60, 80, 100];

/** Densities: EN 1991-1-1 (steel), EN 10088-1 (stainless), EN 573/EN 485 data sheets (aluminium), EN 12164 (brass), ISO 1183 data sheets (plastics). */
export const STOCK_MATERIALS: readonly StockMaterial[] = [
  { name: 'Steel S235JR', density: 7850, colour: 0x8c9398, plates: STEEL_PLATES, price: 1.6 },
  { name: 'Steel S355J2', density: 7850, colour: 0x868d93, plates: STEEL_PLATES, price: 1.8 },
  { name: 'Steel C45', density: 7850, colour: 0x80878c, plates: STEEL_PLATES, price: 2.1 },
  { name: 'Stainless steel 1.4301', density: 7900, colour: 0xa3a9ad, plates: STEEL_PLATES, price: 4.5 },
  { name: 'Stainless steel 1.4404', density: 8000, colour: 0xa6acb0, plates: STEEL_PLATES, price: 5.6 },
  { name: 'Aluminium EN AW-5083', density: 2660, colour: 0xb9bdc0, plates: LIGHT_PLATES, price: 6 },
  { name: 'Aluminium EN AW-6082', density: 2700, colour: 0xb6bbbe, plates: LIGHT_PLATES, price: 6 },
  { name: 'Aluminium EN AW-7075', density: 2810, colour: 0xb0b5b9, plates: LIGHT_PLATES, price: 11 },
  {
    name: 'Brass CW614N',
    density: 8470,
    colour: 0xb39a5b,
    plates: [2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30],
    price: 9,
  },
  { name: 'Polyamide PA6', density: 1140, colour: 0xc9c3b4, plates: LIGHT_PLATES, price: 9 },
  { name: 'Polyoxymethylene POM-C', density: 1410, colour: 0xc6c8c4, plates: LIGHT_PLATES, price: 8 },
  {
    name: 'Birch plywood',
    density: 680,
    colour: 0xc4a77a,
    plates: [4, 6.5, 9, 12, 15, 18, 21, 24, 27, 30],
    price: 4,
  },
];

export const stockMaterial = (name: string): StockMaterial | null =>
  STOCK_MATERIALS.find((m) => m.name.toLowerCase() === name.trim().toLowerCase()) ?? null;
