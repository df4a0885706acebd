/** Who carries messages to people outside. */
export interface Messenger {
  /**
   * Sends a text to a telephone number or a mail address under a name; the same name again is the same message.
   * @throws OutOfReach
   */
  send(ref: string, address: string, text: string): Promise<void>;
}
