declare module "magvar" {
  const magvarPackage: {
    /** Declination in degrees, east positive; altitude in km, time as a decimal year. */
    magvar(latitudeDeg: number, longitudeDeg: number, altitudeKm?: number, time?: number): number;
  };
  export default magvarPackage;
}
