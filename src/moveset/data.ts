/** What plain data is made of. */
type DataValue = string | number | boolean | null | readonly DataValue[] | Data;

/** Plain data of the host's own: at most 1000 values, nested 8 deep. */
export interface Data {
  readonly [key: string]: DataValue;
}
