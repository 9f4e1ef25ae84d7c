declare module 'autocannon' {
  interface Result {
    requests: { average: number };
    latency: { p97_5: number };
    non2xx: number;
  }
  export default function autocannon(options: {
    url: string;
    connections: number;
    duration: number;
    headers: Record<string, string>;
    /** each connection asks for these in turn */
    requests?: { path: string }[];
  }): Promise<Result>;
}
