//! What people keep in Java.

use super::Case;

pub(super) const KEPT: &[Case] = &[
    ("a chain of which a line is too long only by the comment behind it", "java", &["max_line_length=60"], "\
class Board {
    void show() {
        station.levels().tides() //
                .high(of(gauges(), at(hour(), of(3)))) // as told
                .low(of(gauges(), at(hour(), of(4))));
    }
}
"),
    ("a bracket that other lines than its own have a comment in front of", "java", &[], "\
class Board {
    void show() {
        tell( //
                high(), //
                low() //
        );
        tell( //
                high(), //
                low() //
        );
        tell( //
                high(), //
                low() //
        );
        tell( //
                high(), //
                low() //
        );
        tell( //
                high(), //
                low());
    }
}
"),
    ("lines of constants that begin with what parts them", "java", &[], "\
enum Tide {
    low(1)
    , high(2)
    , neap(3)
    ;

    private int of;
}
"),
    (
        "classes without names, open where their author has it, beside lambdas",
        "java",
        &["vknot_brace_declaration=next"],
        "\
class Board
{
    void show()
    {
        tell(new Gauge()
        {
            int level()
            {
                return 1;
            }
        });
        run(() -> {
            tell();
        });
    }
}
",
    ),
    ("comments that touch what is above them alone", "java", &[], "\
class Board {
    // tag::show[]
    void show() {
        tell();
    }
    // end::show[]

    void hide() {
        tell();
    }
    // end::hide[]
}
"),
    ("marks right behind code that end its lines", "java", &[], "\
class Gauge {
    void read() { // Now.
        this.level = stations.first()//
            .gauge()//
            .level(); // Of today.
    }
}
"),
];
