## web/cases.py, core/network/case_words.py, core/editing/cases.py

case-question = In which states of the plant is the site assessed?
case-answer = [b]{ $count ->
    [one] One case
   *[other] { $count } cases
 }.[/] { $gaps ->
    [0] Figures of a study are the worst of all of them; a card and a permit look at the field as it stands besides.
    [one] [late]One state that can be is none of them[/]: no figure of a study is of it.
   *[other] [late]{ $gaps } states that can be are none of them[/]: no figure of a study is of those.
 }
case-answer-problems = [b]{ $count ->
    [one] One case
   *[other] { $count } cases
 }.[/] What each means is told once the draft holds together.
case-strengths = Each case is computed with every supply at its strongest and at its weakest, and just past each step of a device between, with conductors cold and hot. A case that sets a strength or impedances is looked at only so.
case-uncovered = No case covers
case-cover = Add this case
case-gap-normal = The site in normal service
case-gap-tie = { $tag } closed, with both its sides fed: the currents of both add up
case-gap-transfer = { $tag } on its other side
case-gap-runs = { $tag } running
case-name-normal = normal service
case-name-tie = { $tag } closed
case-name-transfer = { $tag } on { $position }
case-name-runs = { $tag } running
case-means-normal = Everything as in normal service.
case-means-position = { $tag } is { $position }, in normal service { $normal }.
case-means-transfer = { $tag } stands on { $position }, in normal service on { $normal }.
case-means-as-normal = { $tag } is { $position }, as in normal service.
case-means-state-running = { $tag } runs.
case-means-state-stopped = { $tag } is stopped.
case-means-state-inverter = { $tag } feeds by its inverter.
case-means-state-battery = { $tag } feeds from its battery.
case-means-state-bypass = { $tag } is on its bypass.
case-means-strength-minimum = Only with { $tag } at its weakest.
case-means-strength-maximum = Only with { $tag } at its strongest.
case-means-reactance-transient = { $tag } gives only what its transient reactance lets through.
case-means-reactance-subtransient = { $tag } gives what its subtransient reactance lets through.
case-means-maintenance = Maintenance setting on: { LIST($tags) }.
case-means-impedances-maximum = Only with conductors cold, tolerances taken off: the highest currents.
case-means-impedances-minimum = Only with conductors hot, tolerances added: the lowest currents.
case-means-impedances-nominal = Only with nominal impedances.
case-set-position = { $tag } { $position }
case-fed = { LIST($supplies) } { $count ->
    [one] feeds
   *[other] in parallel feed
 }
case-fed-none = Nothing feeds
case-buses = { $count ->
    [one] 1 bus:
   *[other] { $count } buses:
 }
case-worst = { $count ->
    [0] Worst nowhere.
    [one] The worst case at one place.
   *[other] The worst case at { $count } places.
 }
case-worst-by = By { $number }.
case-worst-waits = Where it is the worst is being computed.
case-worst-unknown = Where it is the worst the next study of this network tells.
case-change = Change this case
case-label-name = What it is called
case-label-impedances = Impedances
case-impedances-open = the whole range
case-level-maximum = highest currents only
case-level-minimum = lowest currents only
case-level-nominal = nominal only
case-save = Save
case-as-normal = As in normal service
case-set = Set
case-label-setting = Set otherwise than in normal service
case-settable-positions = Positions
case-settable-sources = Supplies
case-settable-settings = Maintenance settings
case-choose = Choose
case-remove = Take this case out
case-remove-what = Figures that only this case makes high would fall. What changes is shown before it is published.
case-add = Add a case
case-like = Beginning with
case-like-none = normal service
case-define = Define them in a draft
case-in-draft = in { $number }
case-back = The draft
case-added = Case “{ $name }” added
case-changed = Case “{ $name }” changed
case-removed = Case “{ $name }” taken out
case-one-that-can-be-set = something that can be set otherwise than in normal service
case-one-that-it-sets = something that this case sets
case-one-at-least = at least one case stays: every figure is of some state of the plant
case-so-many = at most { $most } cases
case-a-name-that-no-case-has = a name that no other case has
case-a-gap-that-is-open = a state that no case covers, and that a case of its own would
case-none = Nothing is published yet.
