struct Gauge {
    level:  f64, // metres
    metres: String,   // of the place
}
struct Tide
{
    a: f64,
}
fn tide() {}
fn surge() {
    if a {
        b();
    } else {
        c();
    }
    let t = aaaa && bbbb && cccc
        && dddd;
}
