class Gauge
{

    int Level() { return 1; }

    int Tide (int a)
    {

        if(a) { b(); }
        else { c( 1 ); }
        if (a) {
            d ();
        } else {
            e();
        }
        int   aa = 1; // metres
        short bb = 2;   // feet
        x = new int[] {1, 2}; y = new int[] { 3 }; z = a[0]; z = a[ 1 ]; v = !a; w = ! b; u = (int)a; u = (int) b;
        int[] p = [1]; int[] r = [ 2 ];
        t = aaaa && bbbb && cccc
            && dddd;
        s = a
            ? b
            : c;
        e = a ? b :
            c;
        f(a => {
            b();
        });
        f(a =>
        {
            b();
        });
        g = delegate (int a) { b(); };
        h = delegate(int a) { b(); };
        if (
            a && b
        ) c();
        k(
            1
        );
        switch (a)
        {
            case 1:
            {
                b();
            }
        }
        aaaaaaaaaaaaaaaaaaaa(bbbbbbbbbbbbbbbbbbbb, cccccccccccccccccccc, dddddddddddddddddddd, eeeeeeeeeeeeeeeeeeee, ffffffffffffffffffff);
    }
    void None() {}













    /* low  
     * tide */
}
