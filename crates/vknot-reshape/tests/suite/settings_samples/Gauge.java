class Gauge {

    int   level; // metres
    short name;   // of the place

    void tide() {}

    void surge()
    {
        if (a) {
            d();
        } else {
            e();
        }
        s = a
            ? b
            : c;
        e = a ? b :
            c;
    }
    void none() { }

}
