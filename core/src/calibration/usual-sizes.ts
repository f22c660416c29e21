/** A size that things of a kind usually have: for sheets that print none. Never a proof. */
export interface UsualSize {
  id: string;
  name: string;
  millimetres: number;
  /** How much such things differ from it: standard deviation, millimetres. */
  spread: number;
}

/**
 * Sizes of the trade, wide enough that two of three things of the kind lie within the spread. Bricks with
 * their joint; paper by ISO 216, which tells the size of a scan.
 */
export const USUAL_SIZES: readonly UsualSize[] = [
  { id: 'door-width', name: 'Door leaf, width', millimetres: 830, spread: 60 },
  { id: 'door-height', name: 'Door leaf, height', millimetres: 2030, spread: 40 },
  { id: 'double-door', name: 'Double door, width', millimetres: 1600, spread: 120 },
  { id: 'brick-length', name: 'Brick and joint, length', millimetres: 225, spread: 12 },
  { id: 'brick-course', name: 'Ten courses of brick', millimetres: 750, spread: 25 },
  { id: 'kitchen-unit', name: 'Kitchen unit, depth or width', millimetres: 600, spread: 15 },
  { id: 'bath', name: 'Bath, length', millimetres: 1700, spread: 50 },
  { id: 'bed', name: 'Bed, length', millimetres: 2000, spread: 50 },
  { id: 'stair-going', name: 'Ten goings of a stair', millimetres: 2700, spread: 180 },
  { id: 'parking-width', name: 'Parking bay, width', millimetres: 2500, spread: 100 },
  { id: 'parking-length', name: 'Parking bay, length', millimetres: 5000, spread: 120 },
  { id: 'paper-a4', name: 'A4 paper, long side', millimetres: 297, spread: 1 },
  { id: 'paper-a3', name: 'A3 paper, long side', millimetres: 420, spread: 1.5 },
  { id: 'paper-a1', name: 'A1 paper, long side', millimetres: 841, spread: 2 },
];

/** Own entries say a size alone: such things are taken to differ by this share of it. */
export const USUAL_SHARE = 0.05;
