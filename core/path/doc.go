// Package path answers: what is done when, and why then?
//
// A build gives an Order: tasks with hands-on minutes, and arrows that say what must
// come before what, how long to wait at least (drying) and at most (a window that
// closes). Waits run day and night at the rate of the room's air (drying.go). The
// workshop has one pair of hands, weekly windows, places with hours and limits of
// their own (calendar.go) and airbrushes that are flushed between colours and stripped
// after three (airbrush.go).
//
// Since every task needs the hands, a plan is a sequence of all tasks of all builds:
// timing.go gives the earliest times that a sequence allows (a task starts later than
// it could where a window after it would close otherwise), search.go looks for the
// sequence that ends earliest, then with the fewest changes of colour, then with the
// fewest sessions; aim.go does so by the ends at which several builds are aimed. bound.go says how early
// any plan could end, endings.go and joint.go that of several builds, conflict.go which
// arrows and hours contradict each other where there is no plan, changes.go tells two
// plans apart in words.
//
// The core never reads a clock: the instant of planning is an input, and its location
// is the workshop's time zone. Budgets are counted in nodes (tasks placed), never in
// seconds, so that the same input gives the same plan on every machine.
package path
