export { pieces } from "./pieces";
export { time } from "./time";
export { week } from "./week";
export { weekMail } from "./weekMail";
