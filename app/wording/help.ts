// What the pictures of each sheet mean, in ten lines at most.

export const SHEET_HELP: Readonly<Record<string, readonly string[]>> = {
  brief: [
    'Missing facts: what nobody has found out yet, and which stage waits for it. Choose one to go to its field.',
    'Before you unplug: a list made from the lines in use. Ticks are kept with who and when.',
    'A question mark in the tables of the lines stands for a fact that is not known.',
    'Needs: devices by kind with growth; subnets for them are given on Addresses.',
    'A cellular line’s signal is as good as its worse half; the caution beside it counts for every antenna outside.',
    'Distances and rooms decide where copper ends and fibre begins.',
  ],
  diagnose: [
    'What was seen comes from the proof; change it here to try another story. Nothing is stored.',
    'Facts tell apart what fails alike: 169.254 or a stranger’s address, 100 Mb/s, a MAC address on another port.',
    'Tests that passed count as much as those that failed: they rule mistakes out.',
    'Explanations stand in order: fewest observations against them, fewest mistakes, most common.',
    'How common a mistake is, is common practice, without a source.',
    'Try next, look next: what splits the explanations that are left most evenly.',
    'See the grid so: the reach grid with that cable, device or line down.',
  ],
  uplinks: [
    'Lines stand in their order: the first that is well carries the site. Drag one, or use its buttons.',
    'Lines of the same order share new flows by weight when it is their turn; one sender stays with one of them.',
    'The strip is one failure: a fault, when it is noticed, traffic on the other line, and the return.',
    'The dashed box is where the change-over may fall: a fault can come at any moment between two rounds.',
    'Play it: the same with rounds at random moments; red ticks are missed rounds, green ones good.',
    'False alarms: how often a line that is well is taken for dead, by formula and simulated.',
    'Who is struck: intents that fail until the fault is noticed, and on the other line.',
    'Who takes which line: the first choice that fits decides; the rest takes the lines in order.',
    'Port forwards: what is handed inside, and who inside gets through by the outside address.',
  ],
  tunnels: [
    'Inside: the gateway’s address in the tunnel and the length of its subnet.',
    'Has: addresses that are the peer’s; they are taken from it and sent to it, and nobody else’s.',
    'May reach: what of ours the peer’s own file allows. A rule must let it through as well.',
    'We dial: host and port of a peer that this gateway calls; otherwise the peer calls us.',
    'Keys: a pair can be made here. The private one is sealed, and shown only when asked for; that is noted.',
    'Change its key: old and new are both let in until a day; a script on the gateway follows the one in use.',
    'Ours is known as: a network that peers call by another prefix, address for address, ' +
      'where both ends have the same.',
    'The file below is what one end is told; without its private key it says where that belongs.',
  ],
  rules: [
    'Rules are met from the top; the first that fits decides, and what none fits falls to the default.',
    'Tried, and for which intents: tests that hit the rule, and what it lets through. A ' +
      'rule for no intent is work for nobody.',
    'A rule in the colour of trouble can never match: others above it take all of it.',
    'Intents say what must pass; whatever none of them names must not. The grid sets them ' +
      'pair by pair; the list has all they say.',
    'Rules that change nothing, or speak of nobody, are in the Lookout: nothing is lost ' +
      'when they go, one by one or together.',
    'Groups: ends under one name, a zone for one; and what happens between two ends that no rule names.',
    'Services and times: ports by name, and hours of the week at which a rule is there or an intent is meant.',
    'As text: one intent a line, and the same comes back. A wrong line is told with its column.',
    'Rules from intents: the least list that does what is meant. From rules: what passes ' +
      'and nobody asked for, as intents.',
  ],
  equipment: [
    'Boxes: what stands on each label, and which device of the plan the box becomes.',
    'Scan: a serial begins a box or fills the first that waits for one; a MAC completes the box before.',
    'On the bench: the address to give the laptop, the one to open, and what may not stand beside it.',
    'Models: ports, power and factory habits. Models of your own come before those of the catalogue.',
  ],
  addresses: [
    'The ruler is the site’s block; ticks stand at powers of two, networks are lengths on it.',
    'Drag a length to move it, its right edge to resize it. It snaps to legal places; a collision says with what.',
    'By keyboard: arrows go from one free place to the next, Shift and an arrow doubles or halves.',
    'Plus and minus zoom; Ctrl and the wheel zoom at the pointer, Shift and the wheel move along.',
    'Dashed boxes are free, with the largest aligned subnet that fits.',
    'The finer ruler below is one network: gateway, static, reserved, pool, free.',
    'A magenta line shows where a gateway was typed by mistake.',
    'Clients: the share that finds the pool empty, by pool size and lease (Erlang B).',
  ],
  loom: [
    'Bars are devices, from the internet at the left to the edge at the right.',
    'Each thread is a VLAN, told by colour and dash; its number stands in the legend.',
    'A thread that ends in a magenta knot stops short: the port named there does not carry it.',
    'A bar in brick and dashes is down in the weather chosen; a cross stands on its cables.',
    '“One way” beside a thread: frames pass in one direction only, as over unlike native VLANs.',
    'Choose a thread, a bar or a cable: the table below shows its ports, and they are edited there.',
    'Mend trunks proposes the least tags that serve every edge; Set ports changes a span at once.',
    'Speed is what both ends and the cable agree on. Light is the transceiver in the port.',
    'Below the picture: the root of the spanning tree and the ports it blocks.',
  ],
  cables: [
    'Each cable has one label, made by the rule and printed for both ends with a code.',
    'Link is the speed at which the ends come up over this cable and length.',
    'LAG: cables with the same name between two devices run as one bundle.',
    'To buy: cable by kind with spare, cords, transceivers and devices.',
  ],
  power: [
    'Each bar is a budget: hatched is reserved by class, solid is drawn, the dashed line is where headroom begins.',
    'Reserved: what the class stands for at the source. Draw: typical, with what is passed on.',
    'Arrives: volts at the end of the run, from wire, length and temperature.',
    'Rows in trouble name what does not fit; nobody in the first column means that no power comes.',
  ],
  reach: [
    'Rows are from, columns are to. Each cell: what is meant, what the plan gives, what was seen.',
    'Outlined pennant: as intended by prediction. Full: seen on site. Cut: against the intent.',
    'Open a cell to walk the path; the deciding entry is named at each hop.',
    'Weather takes things down; the grid follows.',
  ],
  weather: [
    'Every line, device and cable between devices fails once, alone; a row says what the intents lose then.',
    'A cut flag: an intent that is meant to survive this. Point at an intent to see which services are lost.',
    'Below: what each intent hangs on. Choose a failure to see the grid under it.',
  ],
  roster: [
    'A row a device, its steps from claim to in sync. What waits says for what.',
    'The shelf below holds simulated devices that speak to the controller as real ones do.',
  ],
  prove: [
    'Tests follow from the intent. A full pennant passed, a cut one failed, a bare staff was not tried.',
  ],
  'hand-over': ['Papers and files of the saved revision. Nothing secret is in them.'],
}
