/** Somebody outside could not be reached, or did not answer in time: whether they heard is not known. */
export class OutOfReach extends Error {
  override readonly name = 'OutOfReach';
}
