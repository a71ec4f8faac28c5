export { radio, radioIn, valley, valleySurface, type Valley } from "./valley";
