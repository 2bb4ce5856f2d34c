/** Names of the kinds of joint. */
export const KINDS: Record<string, string> = {
  wheel: 'wheel',
  twin_wheel: 'twin wheel',
  gasketed_cover: 'gasketed cover',
  machine_mount: 'machine mount',
  stud_row: 'row of studs',
  locking_hub: 'locking hub',
  centre_bolt: 'centre bolt',
  bearing_nut: 'bearing nut',
  axle_nut: 'axle nut',
  soft_clamp: 'soft clamp',
  fixture: 'fixture',
  casting_studs: 'studs in a casting',
  hung_equipment: 'hung equipment',
};
export const STATUS: Record<string, string> = {
  running: 'under way',
  finished: 'finished, not signed',
  signed: 'signed by the fitter',
  closed: 'signed and closed',
  abandoned: 'abandoned',
};
