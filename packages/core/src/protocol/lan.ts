/** Whether devices of the room may join, where, and which have. */
export type LanState =
  /** Addresses of this computer that others may reach. */
  | { readonly open: false; readonly addresses: readonly string[] }
  | {
      readonly open: true;
      /** Origin of the server of the app that is opened there. */
      readonly app: string;
      /** Where the app is opened. */
      readonly origin: string;
      /** The address with its code, to be scanned. */
      readonly joinUrl: string;
      readonly code: string;
      /** When the code ceases to hold, in milliseconds since the epoch. */
      readonly untilMs: number;
      readonly devices: readonly {
        readonly id: string;
        readonly address: string;
        readonly joinedAt: string;
      }[];
    };
